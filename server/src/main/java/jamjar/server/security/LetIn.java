package jamjar.server.security;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import jamjar.store.Store;
import jamjar.store.accounts.TokenRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Supplier;
import org.springframework.http.HttpHeaders;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.session.web.http.CookieSerializer;
import org.springframework.stereotype.Component;

/**
 * Who is let in, and by what: a program by its token, a person by the session of the browser. A
 * session holds no more than whose it is. Whom it is known of is not asked of the database again
 * for a minute, unless anything of an account, a session or a token was changed: that counts at
 * once.
 */
@Component
public class LetIn {
  /** However much it is used, a session ends after this. */
  static final Duration LONGEST = Duration.ofDays(7);

  /** How long a key lets in, and who came in by it sets a password without the old one. */
  public static final Duration KEY = Duration.ofMinutes(30);

  /** As what the programs that ship with the server are told. */
  public static final String PROGRAM = ProgramToken.NAME;

  private static final Duration REMEMBERED = Duration.ofMinutes(1);
  private static final int MOST = 10_000;
  private static final String BEARER = "Bearer ";
  private static final String ACCOUNT = "account";
  private static final String HOW = "how";
  private static final String FROM = "from";
  private static final String BROWSER = "browser";
  private static final int LONGEST_BROWSER = 200;

  /** So many bytes tell one browser of an account from another. */
  private static final int NAME_BYTES = 8;

  /** Who is known elsewhere is asked of there again after this: groups change. */
  static final Duration LONGEST_BY_SIGN_ON = Duration.ofHours(12);

  /** By what somebody came in. */
  public enum How {
    PASSWORD,
    KEY,
    SIGN_ON
  }

  private final Store store;
  private final ProgramToken program;
  private final FindByIndexNameSessionRepository<? extends Session> sessions;
  private final CookieSerializer cookie;
  private final Clock clock;
  private final Map<String, Let> remembered = new HashMap<>();
  private long changes;

  LetIn(
      Store store,
      ProgramToken program,
      FindByIndexNameSessionRepository<? extends Session> sessions,
      CookieSerializer cookie,
      Clock clock) {
    this.store = store;
    this.program = program;
    this.sessions = sessions;
    this.cookie = cookie;
    this.clock = clock;
  }

  /** Somebody who is let in until then, if nothing changes. */
  private record Let(int account, String name, Role role, Scope scope, Instant until) {
    Actor actor(String from) {
      return new Actor(account, name, role, scope, from);
    }

    Let atMostUntil(Instant later) {
      return until.isAfter(later) ? new Let(account, name, role, scope, later) : this;
    }
  }

  /** Whether a request brings a token: then no cookie counts. */
  static boolean bringsToken(HttpServletRequest request) {
    String header = request.getHeader(HttpHeaders.AUTHORIZATION);
    return header != null && header.regionMatches(true, 0, BEARER, 0, BEARER.length());
  }

  /** The token that a request brings. */
  static String token(HttpServletRequest request) {
    return request.getHeader(HttpHeaders.AUTHORIZATION).substring(BEARER.length()).strip();
  }

  /** The session that a request brings; empty for none. */
  String session(HttpServletRequest request) {
    return cookie.readCookieValues(request).stream().findFirst().orElse("");
  }

  /** Who asks, if it is anybody; a session is used by it. */
  Optional<Actor> by(HttpServletRequest request) {
    String from = request.getRemoteAddr();
    if (bringsToken(request)) {
      return byToken(token(request), from);
    }
    String id = session(request);
    return id.isEmpty()
        ? Optional.empty()
        : remember(id, () -> used(request)).map(l -> l.actor(from));
  }

  private Optional<Let> used(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    if (session == null) {
      return Optional.empty();
    }
    Optional<Let> let =
        of(
            session.getAttribute(ACCOUNT),
            session.getAttribute(HOW),
            Instant.ofEpochMilli(session.getCreationTime()));
    if (let.isEmpty()) {
      session.invalidate();
    }
    return let;
  }

  /** Whom a session lets in, if anybody; it is not used by being asked about. */
  Optional<Actor> bySession(String id, String from) {
    // nor is it remembered: the next request has to use it
    return remembered(id)
        .or(
            () ->
                Optional.ofNullable((Session) sessions.findById(id))
                    .flatMap(
                        found ->
                            of(
                                found.getAttribute(ACCOUNT),
                                found.getAttribute(HOW),
                                found.getCreationTime())))
        .map(let -> let.actor(from));
  }

  private Optional<Let> of(Object account, Object how, Instant made) {
    Instant end = made.plus(How.SIGN_ON.name().equals(how) ? LONGEST_BY_SIGN_ON : LONGEST);
    return account instanceof Integer id && end.isAfter(clock.instant())
        ? store
            .accounts()
            .byId(id)
            .filter(row -> !row.off())
            .map(
                row ->
                    new Let(row.id(), row.name(), Role.of(row.role()), Scope.of(row.scope()), end))
        : Optional.empty();
  }

  /** Whom a token lets in, if anybody. */
  Optional<Actor> byToken(String token, String from) {
    byte[] hash = Secrets.hash(token);
    if (program.is(hash)) {
      return Optional.of(new Actor(0, ProgramToken.NAME, Role.ADMINISTER, Scope.ALL, from));
    }
    return remember(Base64.getEncoder().encodeToString(hash), () -> token(hash))
        .map(let -> let.actor(from));
  }

  private Optional<Let> token(byte[] hash) {
    Instant now = clock.instant();
    Optional<TokenRow> row =
        store.accounts().token(hash).filter(found -> found.endsAt().isAfter(now));
    row.ifPresent(found -> store.accounts().tokenUsed(found.id(), now));
    return row.map(
        found ->
            new Let(
                0, found.name(), Role.of(found.role()), Scope.of(found.scope()), found.endsAt()));
  }

  private Optional<Let> remembered(String key) {
    synchronized (remembered) {
      return Optional.ofNullable(remembered.get(key))
          .filter(let -> let.until().isAfter(clock.instant()));
    }
  }

  private Optional<Let> remember(String key, Supplier<Optional<Let>> ask) {
    Instant now = clock.instant();
    long before;
    synchronized (remembered) {
      before = changes;
    }
    Optional<Let> known = remembered(key);
    if (known.isPresent()) {
      return known;
    }
    Optional<Let> let = ask.get();
    let.ifPresent(
        found -> {
          synchronized (remembered) {
            // what was changed meanwhile was not seen
            if (changes == before) {
              if (remembered.size() >= MOST) {
                remembered.clear();
              }
              remembered.put(key, found.atMostUntil(now.plus(REMEMBERED)));
            }
          }
        });
    return let;
  }

  /** Something of an account, a session or a token is not as it was: to be called once it is so. */
  public void forget() {
    synchronized (remembered) {
      changes++;
      remembered.clear();
    }
  }

  /**
   * From now on the browser is this account's, by a session of a new name.
   *
   * @param how by a key for once: who has forgotten the password sets another then
   */
  public void signIn(HttpServletRequest request, int account, How how) {
    signOut(request);
    HttpSession session = request.getSession(true);
    session.setAttribute(ACCOUNT, account);
    session.setAttribute(HOW, how.name());
    session.setAttribute(FROM, request.getRemoteAddr());
    session.setAttribute(BROWSER, browser(request));
    session.setAttribute(
        FindByIndexNameSessionRepository.PRINCIPAL_NAME_INDEX_NAME, Integer.toString(account));
  }

  /** Whether the session that a request brings began by a key for once, and not long ago. */
  public boolean byKey(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    return session != null
        && How.KEY.name().equals(session.getAttribute(HOW))
        && Instant.ofEpochMilli(session.getCreationTime()).plus(KEY).isAfter(clock.instant());
  }

  /** The browser is nobody's any more. */
  public void signOut(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    if (session != null) {
      session.invalidate();
      forget();
    }
  }

  private static String browser(HttpServletRequest request) {
    String told = Objects.requireNonNullElse(request.getHeader(HttpHeaders.USER_AGENT), "");
    return told.substring(0, Math.min(told.length(), LONGEST_BROWSER));
  }

  /**
   * A browser that somebody is signed in with.
   *
   * @param name tells it from others, and does not let in
   * @param from the address that it signed in from
   * @param browser what it says that it is
   * @param by how it came in; empty where that is not known
   */
  public record Browser(
      String name, Instant since, Instant used, String from, String browser, String by) {
    static Browser of(Session session) {
      return new Browser(
          nameOf(session.getId()),
          session.getCreationTime(),
          session.getLastAccessedTime(),
          Objects.requireNonNullElse(session.getAttribute(FROM), ""),
          Objects.requireNonNullElse(session.getAttribute(BROWSER), ""),
          Objects.requireNonNullElse(session.getAttribute(HOW), ""));
    }

    private static String nameOf(String session) {
      return HexFormat.of().formatHex(Secrets.hash(session), 0, NAME_BYTES);
    }
  }

  /** The browsers that an account is signed in with, the one used last first. */
  public List<Browser> browsers(int account) {
    return sessions.findByPrincipalName(Integer.toString(account)).values().stream()
        .map(Browser::of)
        .sorted(Comparator.comparing(Browser::used).reversed())
        .toList();
  }

  /** That of a request; empty for a program. */
  public String browserOf(HttpServletRequest request) {
    String id = bringsToken(request) ? "" : session(request);
    return id.isEmpty() ? "" : Browser.nameOf(id);
  }

  /**
   * Signs out one browser of an account.
   *
   * @return whether there was one of that name
   */
  public boolean signOut(int account, String browser) {
    Optional<String> session =
        sessions.findByPrincipalName(Integer.toString(account)).keySet().stream()
            .filter(id -> Browser.nameOf(id).equals(browser))
            .findFirst();
    session.ifPresent(sessions::deleteById);
    forget();
    return session.isPresent();
  }

  /** Ends all sessions of an account. */
  public void signOut(int account) {
    sessions.findByPrincipalName(Integer.toString(account)).keySet().forEach(sessions::deleteById);
    forget();
  }
}
