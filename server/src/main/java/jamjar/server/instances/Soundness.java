package jamjar.server.instances;

import jamjar.collect.Target;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.time.DateTimeException;
import java.time.ZoneId;
import org.springframework.stereotype.Component;

/** What can be said of an instance that a person wants, without trying it. */
@Component
public class Soundness {
  private final Store store;
  private final Targets targets;
  private final Recipes recipes;

  Soundness(Store store, Targets targets, Recipes recipes) {
    this.store = store;
    this.targets = targets;
    this.recipes = recipes;
  }

  private LoadedRecipe recipe(String key) {
    return recipes
        .find(key)
        .orElseThrow(() -> Problem.field("recipe", "There is no recipe '" + key + "'."));
  }

  /**
   * What can be said of it without trying it.
   *
   * @param self the instance that is changed; 0 for a new one
   */
  public void require(InstanceBody body, int self) {
    try {
      ZoneId.of(body.zone());
    } catch (DateTimeException e) {
      throw Problem.field("zone", "'" + body.zone() + "' is not a time zone.");
    }
    requireReachable(body);
    requireCredential(body, self);
    if (!recipe(body.recipe()).recipe().kind().equals(body.kind())) {
      throw Problem.field("recipe", "That recipe is of another kind.");
    }
    store
        .instances()
        .idByName(body.name().strip())
        .filter(id -> id != self)
        .ifPresent(
            id -> {
              throw Problem.field(
                  "name", "There is an instance named " + body.name().strip() + " already.");
            });
  }

  private static void requireReachable(InstanceBody body) {
    InstanceBody.Endpoint endpoint = body.endpoint();
    boolean attached = endpoint.port() == 0 && body.kind().equals("jvm");
    if (attached && endpoint.database().isBlank()) {
      throw Problem.field("endpoint.database", "Which JVM of this machine? Pick one.");
    }
    if (!attached && endpoint.host().isBlank()) {
      throw Problem.field("endpoint.host", "The host is missing.");
    }
    if (!attached && !Target.isHost(endpoint.host().strip())) {
      throw Problem.field(
          "endpoint.host", "The host is the name or the address of a machine, and nothing else.");
    }
    if (!attached && endpoint.port() == 0) {
      throw Problem.field("endpoint.port", "The port is missing.");
    }
    if (body.kind().equals("postgresql")) {
      if (endpoint.database().isBlank()) {
        throw Problem.field("endpoint.database", "The database is missing.");
      }
      if (body.credential().user().isBlank() && !body.credential().named()) {
        throw Problem.field("credential.user", "The user is missing.");
      }
    }
  }

  /**
   * A stored password goes nowhere but where it was typed for.
   *
   * @param before the instance as it is stored
   */
  public static void requireTypedFor(InstanceBody body, InstanceRow before) {
    InstanceBody.Endpoint to = body.endpoint();
    boolean keeps =
        !body.credential().named()
            && before.credential() == null
            && !before.userName().isEmpty()
            && (body.credential().secret() == null || body.credential().secret().isEmpty());
    boolean elsewhere =
        !before.host().equals(to.host().strip())
            || before.port() != to.port()
            || !before.tls().equals(to.tls());
    if (keeps && elsewhere) {
      throw Problem.field(
          "credential.secret",
          "Host, port or encryption is another one: type the password again. The stored one is sent"
              + " nowhere but where it was typed for.");
    }
  }

  private void requireCredential(InstanceBody body, int self) {
    InstanceBody.Credential credential = body.credential();
    if (credential.named()) {
      targets.credential(credential.name());
      return;
    }
    boolean typed = credential.secret() != null && !credential.secret().isEmpty();
    if (self == 0 && !credential.user().isEmpty() && !typed) {
      throw Problem.field("credential.secret", "The password is missing.");
    }
  }
}
