package jamjar.server.security;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import jamjar.server.problems.ProblemWriter;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.accounts.AccountRow;
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
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Finds out who asks: a program by its token, a person by the session of the browser. A session
 * holds no more than whose it is, so that a role that was changed or an account that was switched
 * off counts from the next request on.
 */
public final class Arrivals extends OncePerRequestFilter {
  /** However much it is used, a session ends after this. */
  static final Duration LONGEST = Duration.ofDays(7);

  private static final String BEARER = "Bearer ";
  private static final String ACCOUNT = "account";
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
        (bringsToken(request) ? byToken(request) : bySession(request)).ifPresent(Arrivals::is);
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

  private Optional<Actor> byToken(HttpServletRequest request) {
    String token = request.getHeader(HttpHeaders.AUTHORIZATION).substring(BEARER.length()).strip();
    byte[] hash = Secrets.hash(token);
    if (program.is(hash)) {
      return Optional.of(new Actor(0, ProgramToken.NAME, Role.ADMINISTER, request.getRemoteAddr()));
    }
    Instant now = clock.instant();
    return store
        .accounts()
        .token(hash)
        .filter(row -> row.endsAt().isAfter(now))
        .map(
            row -> {
              used(row, now);
              return new Actor(0, row.name(), Role.of(row.role()), request.getRemoteAddr());
            });
  }

  /** To the minute: what comes each second need not be written each second. */
  private void used(TokenRow row, Instant now) {
    if (row.usedAt() == null || row.usedAt().isBefore(now.minusSeconds(60))) {
      store.accounts().tokenUsed(row.id(), now);
    }
  }

  private Optional<Actor> bySession(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    if (session == null || !(session.getAttribute(ACCOUNT) instanceof Integer account)) {
      return Optional.empty();
    }
    Instant made = Instant.ofEpochMilli(session.getCreationTime());
    Optional<Actor> actor =
        made.plus(LONGEST).isAfter(clock.instant())
            ? store
                .accounts()
                .byId(account)
                .filter(row -> !row.off())
                .map(row -> actor(row, request))
            : Optional.empty();
    if (actor.isEmpty()) {
      session.invalidate();
    }
    return actor;
  }

  private static Actor actor(AccountRow row, HttpServletRequest request) {
    return new Actor(row.id(), row.name(), Role.of(row.role()), request.getRemoteAddr());
  }
}
