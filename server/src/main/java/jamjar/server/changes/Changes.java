package jamjar.server.changes;

import jakarta.servlet.http.HttpServletRequest;
import jamjar.server.security.Actor;
import jamjar.store.Store;
import jamjar.store.changes.ChangeRow;
import java.time.Clock;
import java.time.Instant;
import java.util.EnumSet;
import java.util.Locale;
import org.springframework.stereotype.Service;
import org.springframework.web.context.request.RequestAttributes;
import org.springframework.web.context.request.RequestContextHolder;
import tools.jackson.databind.json.JsonMapper;

/**
 * Keeps every change of what is watched, how, and by which limits: who made it, when, and what it
 * was before and after. To be called in the transaction of the change itself.
 */
@Service
public class Changes {
  private static final String TOLD = Changes.class.getName() + ".told";

  private final Store store;
  private final JsonMapper json;
  private final Clock clock;

  Changes(Store store, JsonMapper json, Clock clock) {
    this.store = store;
    this.json = json;
    this.clock = clock;
  }

  /** What was changed. */
  public enum What {
    LIMIT,
    INSTANCE,
    GROUP,
    RECIPE,
    MARKER,
    CREDENTIAL,
    KEEPING,
    WHAT_TO_DO,
    ALERT,
    ACCOUNT,
    TOKEN,
    SIGN_IN,
    SIGN_ON_GROUP,
    KEY,
    TELLING,
    CHANNEL,
    ASKED;

    private static final EnumSet<What> OF_PERSONS =
        EnumSet.of(
            CREDENTIAL, ACCOUNT, TOKEN, SIGN_IN, SIGN_ON_GROUP, KEY, TELLING, CHANNEL, ASKED);

    /** What is about what is watched, and how: not about who may come in, and by what. */
    static String[] ofEstate() {
      return EnumSet.complementOf(OF_PERSONS).stream().map(What::word).toArray(String[]::new);
    }

    static What of(String word) {
      return valueOf(word.toUpperCase(Locale.ROOT));
    }

    /** As it is stored. */
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /**
   * Keeps a change.
   *
   * @param of which of them: its number, name or key
   * @param before as told to a person, without secrets; null for what was not there
   * @param after likewise; null for what is gone
   */
  public void add(What what, Object of, Object before, Object after) {
    add(clock.instant(), what, of, before, after);
  }

  /**
   * As above.
   *
   * @param at since when it is so
   */
  public void add(Instant at, What what, Object of, Object before, Object after) {
    String was = text(before);
    String is = text(after);
    told();
    // what was saved as it was is no change
    if (was == null || !was.equals(is)) {
      store
          .changes()
          .add(
              new ChangeRow(
                  0, at, Actor.who(), Actor.from(), what.word(), String.valueOf(of), was, is));
    }
  }

  /**
   * Keeps what was done by one who is not known yet when it begins, such as a sign-in.
   *
   * @param who a name
   * @param from where
   */
  public void add(String who, String from, What what, Object of, Object after) {
    store
        .changes()
        .add(
            new ChangeRow(
                0, clock.instant(), who, from, what.word(), String.valueOf(of), null, text(after)));
  }

  /** The request that this thread answers, if any, has been told of. */
  private static void told() {
    RequestAttributes request = RequestContextHolder.getRequestAttributes();
    if (request != null) {
      request.setAttribute(TOLD, true, RequestAttributes.SCOPE_REQUEST);
    }
  }

  /** Whether anything was told of what it changed. */
  static boolean toldIn(HttpServletRequest request) {
    return request.getAttribute(TOLD) != null;
  }

  private String text(Object value) {
    return value == null ? null : json.writeValueAsString(value);
  }
}
