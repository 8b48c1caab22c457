package jamjar.core.failure;

import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;

/** What a failure comes from: what libraries throw is wrapped, and may even be caused by itself. */
public final class Causes {
  private static final int DEEPEST = 20;

  private Causes() {}

  /** The failure itself and its causes, the outermost first; at most twenty of them. */
  public static Stream<Throwable> of(Throwable failure) {
    return Stream.iterate(failure, Objects::nonNull, Throwable::getCause).limit(DEEPEST);
  }

  /** The outermost of a kind. */
  public static <T extends Throwable> Optional<T> of(Throwable failure, Class<T> kind) {
    return of(failure).filter(kind::isInstance).map(kind::cast).findFirst();
  }

  public static boolean has(Throwable failure, Class<? extends Throwable> kind) {
    return of(failure).anyMatch(kind::isInstance);
  }

  public static Throwable root(Throwable failure) {
    return of(failure).reduce(failure, (before, cause) -> cause);
  }

  /** What the root says, else what it is. */
  public static String words(Throwable failure) {
    Throwable root = root(failure);
    return Objects.requireNonNullElse(root.getMessage(), root.getClass().getSimpleName());
  }
}
