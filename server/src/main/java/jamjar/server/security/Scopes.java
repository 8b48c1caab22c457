package jamjar.server.security;

import jamjar.server.problems.Problem;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.util.List;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * What of the estate is in the scope of who asks. What is not in it is not there for them: neither
 * told of nor counted. Jam Jar itself, at work by itself, has no scope.
 */
@Component
public class Scopes {
  private final Store store;

  Scopes(Store store) {
    this.store = store;
  }

  private static Scope scope() {
    return Actor.current().map(Actor::scope).orElse(Scope.ALL);
  }

  /** Whether there is nothing out of it. */
  public static boolean isAll() {
    return scope().isAll();
  }

  /** What is in it now, asked of the store once. */
  public Sight sight() {
    return sight(scope());
  }

  Sight sight(Scope scope) {
    return new Sight(scope, scope.isAll() ? List.of() : store.instances().all());
  }

  /** Those under watch, by name. */
  public List<InstanceRow> instances() {
    Scope scope = scope();
    return store.instances().all().stream().filter(scope::holds).toList();
  }

  public static boolean holds(InstanceRow row) {
    return scope().holds(row);
  }

  /** Whether an instance is in it. */
  public boolean holds(long instance) {
    return isAll()
        || instance == (int) instance
            && store.instances().byId((int) instance).filter(Scopes::holds).isPresent();
  }

  /**
   * An instance as it is stored.
   *
   * @throws Problem where there is none, for who asks
   */
  public InstanceRow instance(int id) {
    return store
        .instances()
        .byId(id)
        .filter(Scopes::holds)
        .orElseThrow(() -> Problem.unknown("There is no instance " + id + "."));
  }

  /**
   * What something is about.
   *
   * @param level as of {@link Sight#sees}
   */
  public record About(String level, String of) {}

  /**
   * A guard of what is about so much or so little.
   *
   * @param kind as of {@link Guard}
   * @param about what one of them is about, if there is one of that number
   */
  public Guard guard(String kind, IntFunction<Optional<About>> about) {
    return new Guard(
        kind,
        id ->
            id == (int) id
                && about
                    .apply((int) id)
                    .filter(found -> sight().sees(found.level(), found.of()))
                    .isPresent());
  }

  /**
   * @throws Problem where something is about more than is in the scope
   */
  public void requireOwn(String level, String of) {
    require(sight().owns(level, of));
  }

  /**
   * @throws Problem where what would be changed is not in the scope
   */
  public static void require(boolean own) {
    if (!own) {
      throw beyond();
    }
  }

  static Problem beyond() {
    return Problem.beyond(
        "This concerns instances that are not in your scope, "
            + scope().words().stream()
                .map(word -> word.replaceFirst(":", " "))
                .collect(Collectors.joining(", "))
            + ". Who administers Jam Jar can change that.");
  }
}
