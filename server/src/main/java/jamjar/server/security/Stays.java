package jamjar.server.security;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import jamjar.store.StoreAway;
import java.util.function.BooleanSupplier;
import org.springframework.session.Session;
import org.springframework.session.SessionRepository;
import org.springframework.stereotype.Component;

/** For what goes on after a request was let in: whether it would still be. */
@Component
public class Stays {
  private final SessionRepository<? extends Session> sessions;
  private final Arrivals arrivals;

  Stays(SessionRepository<? extends Session> sessions, Arrivals arrivals) {
    this.sessions = sessions;
    this.arrivals = arrivals;
  }

  /** Asked later, of who asks now; while the database does not answer nobody is sent away. */
  public BooleanSupplier of(HttpServletRequest request) {
    String from = request.getRemoteAddr();
    String token = Arrivals.bringsToken(request) ? Arrivals.token(request) : null;
    HttpSession session = token == null ? request.getSession(false) : null;
    String id = session == null ? "" : session.getId();
    return () -> {
      try {
        if (token != null) {
          return arrivals.byToken(token, from).isPresent();
        }
        Session now = sessions.findById(id);
        return now != null
            && arrivals
                .bySession(now.getAttribute(Arrivals.ACCOUNT), now.getCreationTime(), from)
                .isPresent();
      } catch (RuntimeException e) {
        if (StoreAway.is(e)) {
          return true;
        }
        throw e;
      }
    };
  }
}
