package jamjar.server.security;

import jakarta.servlet.http.HttpServletRequest;
import jamjar.store.StoreAway;
import java.util.function.BooleanSupplier;
import org.springframework.stereotype.Component;

/** For what goes on after a request was let in: whether it would still be. */
@Component
public class Stays {
  private final LetIn letIn;

  Stays(LetIn letIn) {
    this.letIn = letIn;
  }

  /** Asked later, of who asks now; while the database does not answer nobody is sent away. */
  public BooleanSupplier of(HttpServletRequest request) {
    String from = request.getRemoteAddr();
    String token = LetIn.bringsToken(request) ? LetIn.token(request) : null;
    String session = token == null ? letIn.session(request) : "";
    return () -> {
      try {
        return token == null
            ? letIn.bySession(session, from).isPresent()
            : letIn.byToken(token, from).isPresent();
      } catch (RuntimeException e) {
        if (StoreAway.is(e)) {
          return true;
        }
        throw e;
      }
    };
  }
}
