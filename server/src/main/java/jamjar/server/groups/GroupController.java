package jamjar.server.groups;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.groups.GroupRow;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How many instances of each group there should be. */
@RestController
@RequestMapping(path = "/api/groups", produces = "application/json")
class GroupController {
  private final Store store;
  private final Scopes scopes;
  private final Changes changes;

  GroupController(Store store, Scopes scopes, Changes changes) {
    this.store = store;
    this.scopes = scopes;
    this.changes = changes;
  }

  /**
   * A group at a site.
   *
   * @param expected how many there should be
   * @param command what its JVMs on this machine run, or how that begins: those of them that are
   *     not watched are found; empty where they are not looked for
   */
  record Group(
      @NotBlank @Size(max = 80) String name,
      @NotNull @Size(max = 80) String site,
      @Min(0) @Max(10_000) int expected,
      @Size(max = 200) String command) {
    Group {
      command = command == null ? "" : command.strip();
    }
  }

  @GetMapping
  List<Group> all() {
    Sight sight = scopes.sight();
    return store.groups().all().stream()
        .filter(row -> sight.ownsGroup(row.name(), row.site()))
        .map(row -> new Group(row.name(), row.site(), row.expected(), row.command()))
        .toList();
  }

  @PutMapping
  Group put(@Valid @RequestBody Group group) {
    Scopes.require(scopes.sight().ownsGroup(group.name(), group.site()));
    Optional<Group> before =
        all().stream()
            .filter(g -> g.name().equals(group.name()) && g.site().equals(group.site()))
            .findFirst();
    store.inOne(
        () -> {
          store
              .groups()
              .put(new GroupRow(group.name(), group.site(), group.expected(), group.command()));
          changes.add(What.GROUP, group.name() + "/" + group.site(), before.orElse(null), group);
        });
    return group;
  }
}
