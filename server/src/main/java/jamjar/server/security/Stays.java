package jamjar.server.security;

import jakarta.servlet.http.HttpServletRequest;
import jamjar.store.StoreAway;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Supplier;
import org.springframework.stereotype.Component;

/** For what goes on after a request was let in: whether it would still be, and to see what. */
@Component
public class Stays {
  private final LetIn letIn;
  private final Scopes scopes;

  Stays(LetIn letIn, Scopes scopes) {
    this.letIn = letIn;
    this.scopes = scopes;
  }

  /**
   * Asked later, of who asks now: what they see then, or nothing where they are not let in any
   * more. While the database does not answer, or not in time, it stays as it was.
   */
  public Supplier<Optional<Sight>> of(HttpServletRequest request) {
    String from = request.getRemoteAddr();
    String token = LetIn.bringsToken(request) ? LetIn.token(request) : null;
    String session = token == null ? letIn.session(request) : "";
    AtomicReference<Optional<Sight>> last = new AtomicReference<>(Optional.of(scopes.sight()));
    return () -> {
      try {
        Optional<Actor> still =
            token == null ? letIn.bySession(session, from) : letIn.byToken(token, from);
        last.set(still.map(actor -> scopes.sight(actor.scope())));
        return last.get();
      } catch (RuntimeException e) {
        if (StoreAway.passes(e)) {
          return last.get();
        }
        throw e;
      }
    };
  }
}
