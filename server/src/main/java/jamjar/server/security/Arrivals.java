package jamjar.server.security;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import jamjar.server.problems.ProblemWriter;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.accounts.TokenRow;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpHeaders;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Finds out who asks: a program by its token, a person by the session of the browser. A session
 * holds no more than whose it is, so that a role that was changed or an account that was switched
 * off counts from the next request on.
 */
@Component
public class Arrivals extends OncePerRequestFilter {
  /** However much it is used, a session ends after this. */
  static final Duration LONGEST = Duration.ofDays(7);

  private static final String BEARER = "Bearer ";
  static final String ACCOUNT = "account";
  private final Store store;
  private final ProgramToken program;
  private final Clock clock;
  private final ProblemWriter problems;

  Arrivals(Store store, ProgramToken program, Clock clock, ProblemWriter problems) {
    this.store = store;
    this.program = program;
    this.clock = clock;
    this.problems = problems;
  }

  /** Whether a request brings a token: then no cookie counts. */
  static boolean bringsToken(HttpServletRequest request) {
    String header = request.getHeader(HttpHeaders.AUTHORIZATION);
    return header != null && header.regionMatches(true, 0, BEARER, 0, BEARER.length());
  }

  /** From now on the browser is this account's, by a session of a new name. */
  public static void signIn(HttpServletRequest request, int account) {
    HttpSession old = request.getSession(false);
    if (old != null) {
      old.invalidate();
    }
    HttpSession session = request.getSession(true);
    session.setAttribute(ACCOUNT, account);
    session.setAttribute(
        FindByIndexNameSessionRepository.PRINCIPAL_NAME_INDEX_NAME, principal(account));
  }

  /** By it the sessions of an account are found. */
  public static String principal(int account) {
    return Integer.toString(account);
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    // what holds no data is given to anybody, without asking who it is
    if (request.getRequestURI().startsWith("/api/")) {
      try {
        arrived(request).ifPresent(Arrivals::is);
      } catch (RuntimeException e) {
        if (!StoreAway.is(e)) {
          throw e;
        }
        // how the server is is told all the same, as to a stranger
        if (!request.getRequestURI().equals("/api/health")) {
          problems.away(response);
          return;
        }
      }
    }
    chain.doFilter(request, response);
  }

  private static void is(Actor actor) {
    SecurityContext context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(
        UsernamePasswordAuthenticationToken.authenticated(actor, null, List.of()));
    SecurityContextHolder.setContext(context);
  }

  private Optional<Actor> arrived(HttpServletRequest request) {
    if (bringsToken(request)) {
      return byToken(token(request), request.getRemoteAddr());
    }
    HttpSession session = request.getSession(false);
    if (session == null) {
      return Optional.empty();
    }
    Optional<Actor> actor =
        bySession(
            session.getAttribute(ACCOUNT),
            Instant.ofEpochMilli(session.getCreationTime()),
            request.getRemoteAddr());
    if (actor.isEmpty()) {
      session.invalidate();
    }
    return actor;
  }

  /** What a request brings. */
  static String token(HttpServletRequest request) {
    return request.getHeader(HttpHeaders.AUTHORIZATION).substring(BEARER.length()).strip();
  }

  /** Whom a token lets in, if anybody. */
  Optional<Actor> byToken(String token, String from) {
    byte[] hash = Secrets.hash(token);
    if (program.is(hash)) {
      return Optional.of(new Actor(0, ProgramToken.NAME, Role.ADMINISTER, from));
    }
    Instant now = clock.instant();
    return store
        .accounts()
        .token(hash)
        .filter(row -> row.endsAt().isAfter(now))
        .map(
            row -> {
              used(row, now);
              return new Actor(0, row.name(), Role.of(row.role()), from);
            });
  }

  /** To the minute: what comes each second need not be written each second. */
  private void used(TokenRow row, Instant now) {
    if (row.usedAt() == null || row.usedAt().isBefore(now.minusSeconds(60))) {
      store.accounts().tokenUsed(row.id(), now);
    }
  }

  /**
   * Whom a session lets in, if anybody.
   *
   * @param account what it holds, if anything
   * @param made when it began
   */
  Optional<Actor> bySession(Object account, Instant made, String from) {
    return account instanceof Integer id && made.plus(LONGEST).isAfter(clock.instant())
        ? store
            .accounts()
            .byId(id)
            .filter(row -> !row.off())
            .map(row -> new Actor(row.id(), row.name(), Role.of(row.role()), from))
        : Optional.empty();
  }
}
