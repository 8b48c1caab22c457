package jamjar.server.security;

import java.util.Optional;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;

/**
 * Who asks.
 *
 * @param account its number; 0 for a program
 * @param name as told in the history of changes
 * @param role how far it may go
 * @param scope of which part of the estate
 * @param address from where it asks
 */
public record Actor(int account, String name, Role role, Scope scope, String address) {
  /** What Jam Jar does by itself. */
  public static final String ITSELF = "Jam Jar";

  /**
   * Who asks in this thread; nobody where nobody has signed in, or where Jam Jar works by itself.
   */
  public static Optional<Actor> current() {
    Authentication known = SecurityContextHolder.getContext().getAuthentication();
    return known != null && known.getPrincipal() instanceof Actor actor
        ? Optional.of(actor)
        : Optional.empty();
  }

  /** The name to write into the history of changes. */
  public static String who() {
    return current().map(Actor::name).orElse(ITSELF);
  }

  /** From where, to write into the history of changes; empty for what Jam Jar does by itself. */
  public static String from() {
    return current().map(Actor::address).orElse("");
  }
}
