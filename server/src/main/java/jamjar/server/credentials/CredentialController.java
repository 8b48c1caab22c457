package jamjar.server.credentials;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.instances.InstanceService;
import jamjar.server.instances.Targets;
import jamjar.server.problems.Problem;
import jamjar.server.security.Scopes;
import jamjar.server.security.SecretBox;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.credentials.CredentialRow;
import java.time.Clock;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Users with their passwords, each for several instances and changed in one place. */
@RestController
@RequestMapping(path = "/api/credentials", produces = "application/json")
class CredentialController {
  private final Store store;
  private final Scopes scopes;
  private final SecretBox secrets;
  private final InstanceService instances;
  private final Changes changes;
  private final Clock clock;

  CredentialController(
      Store store,
      Scopes scopes,
      SecretBox secrets,
      InstanceService instances,
      Changes changes,
      Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.secrets = secrets;
    this.instances = instances;
    this.changes = changes;
    this.clock = clock;
  }

  /**
   * A credential as told: never with its password.
   *
   * @param usedBy the instances that use it
   */
  @Schema(name = "StoredCredential")
  record Told(String name, String user, List<Integer> usedBy, long changedAt) {}

  /** What is stored; taken in, never given out. */
  @Schema(name = "CredentialBody")
  record Body(@NotNull @Size(max = 63) String user, @NotBlank String secret) {

    @Override
    public String toString() {
      return user;
    }
  }

  /** Those that are used in the scope of who asks. */
  @GetMapping
  List<Told> all() {
    Sight sight = scopes.sight();
    return store.credentials().all().stream()
        .map(this::told)
        .map(
            told ->
                new Told(
                    told.name(),
                    told.user(),
                    told.usedBy().stream().filter(sight::holds).toList(),
                    told.changedAt()))
        .filter(told -> Scopes.isAll() || !told.usedBy().isEmpty())
        .toList();
  }

  /** Stores it, or changes its user and password; those that use it sign in anew at once. */
  @PutMapping("/{name}")
  Told put(@PathVariable @NotBlank @Size(max = 80) String name, @Valid @RequestBody Body body) {
    CredentialRow row =
        new CredentialRow(
            name,
            body.user(),
            secrets.lock(body.secret(), Targets.placeOfCredential(name)),
            clock.instant());
    Told before = store.credentials().byName(name).map(this::told).orElse(null);
    store.inOne(
        () -> {
          store.credentials().put(row);
          changes.add(What.CREDENTIAL, name, before, told(row));
        });
    store.credentials().usedBy(name).forEach(instances::signInAnew);
    return told(row);
  }

  @DeleteMapping("/{name}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String name) {
    int users = store.credentials().usedBy(name).size();
    if (users > 0) {
      throw Problem.field("name", users + " instances still use it: give them another one first.");
    }
    Told before =
        store
            .credentials()
            .byName(name)
            .map(this::told)
            .orElseThrow(() -> Problem.unknown("There is no credential named '" + name + "'."));
    store.inOne(
        () -> {
          store.credentials().remove(name);
          changes.add(What.CREDENTIAL, name, before, null);
        });
  }

  private Told told(CredentialRow row) {
    return new Told(
        row.name(),
        row.userName(),
        store.credentials().usedBy(row.name()),
        row.changedAt().toEpochMilli());
  }
}
