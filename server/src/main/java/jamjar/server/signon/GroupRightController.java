package jamjar.server.signon;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import jamjar.server.accounts.AccountView;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.problems.Problem;
import jamjar.store.Store;
import jamjar.store.accounts.GroupRightRow;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What the members of groups may who come in by single sign-on. */
@RestController
@RequestMapping(path = "/api/sign-on/groups", produces = "application/json")
class GroupRightController {
  private final Store store;
  private final Changes changes;

  GroupRightController(Store store, Changes changes) {
    this.store = store;
    this.changes = changes;
  }

  /**
   * What its members may, from when they sign in next.
   *
   * @param name of the group as it is told with them
   * @param scope sites, groups and tags whose instances it is about; none for all
   */
  @Schema(name = "GroupRight")
  record GroupRight(
      @NotBlank @Size(max = 200) String name,
      @NotNull @Pattern(regexp = AccountView.ROLES, message = AccountView.ROLE_RULE) String role,
      @NotNull @Size(max = AccountView.MOST_SCOPES)
          List<
                  @NotNull @Pattern(regexp = AccountView.SCOPE, message = AccountView.SCOPE_RULE)
                  String>
              scope) {
    static GroupRight of(GroupRightRow row) {
      return new GroupRight(row.name(), row.role(), List.of(row.scope()));
    }
  }

  @GetMapping
  List<GroupRight> all() {
    return store.accounts().groupRights().stream().map(GroupRight::of).toList();
  }

  @PutMapping
  GroupRight put(@Valid @RequestBody GroupRight body) {
    GroupRightRow row =
        new GroupRightRow(
            body.name().strip(), body.role(), AccountView.scope(body.scope(), body.role()));
    GroupRight before = one(row.name()).orElse(null);
    store.inOne(
        () -> {
          store.accounts().putGroupRight(row);
          changes.add(What.SIGN_ON_GROUP, row.name(), before, GroupRight.of(row));
        });
    return GroupRight.of(row);
  }

  /** Its members are not let in by it any more. */
  @DeleteMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@RequestParam @Size(max = 200) String name) {
    GroupRight before =
        one(name).orElseThrow(() -> Problem.unknown("There is no group '" + name + "' here."));
    store.inOne(
        () -> {
          store.accounts().removeGroupRight(name);
          changes.add(What.SIGN_ON_GROUP, name, before, null);
        });
  }

  private Optional<GroupRight> one(String name) {
    return all().stream().filter(right -> right.name().equals(name)).findFirst();
  }
}
