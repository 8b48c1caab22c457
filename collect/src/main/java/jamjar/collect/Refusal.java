package jamjar.collect;

import java.util.Arrays;
import java.util.Optional;

/**
 * Why a target could not be read.
 *
 * @param tried what was tried
 * @param answered what answered, in its own words
 * @param advice what to do about it
 * @param fix the commands that mend it there, ready to copy; empty where no command does
 * @param restartNeeded whether the target must restart for it
 */
public record Refusal(
    Reason reason,
    String tried,
    String answered,
    String advice,
    String fix,
    boolean restartNeeded) {

  /** One that no command mends. */
  public Refusal(Reason reason, String tried, String answered, String advice) {
    this(reason, tried, answered, advice, "", false);
  }

  /** The same with the commands that mend it there. */
  public Refusal mendedBy(String commands) {
    return new Refusal(reason, tried, answered, advice, commands, restartNeeded);
  }

  /** The same, when the target must restart for it. */
  public Refusal afterRestart() {
    return new Refusal(reason, tried, answered, advice, fix, true);
  }

  /** The kinds of failure that a person would mend in different ways. */
  public enum Reason {
    NAME_UNKNOWN("name unknown", false),
    REFUSED("refused"),
    TIMED_OUT("timed out", false),
    NO_ROUTE("no route", false),
    TLS_NOT_OFFERED("TLS not offered"),
    TLS_NOT_TRUSTED("TLS not trusted"),
    TLS_OTHER_NAME("TLS certificate of another name"),
    SIGN_IN("sign-in refused"),
    NOT_ADMITTED("not admitted"),
    DATABASE_UNKNOWN("database unknown"),
    FULL("no connection left"),
    NOT_READY("starting or stopping"),
    OTHER_PROTOCOL("something else at that port"),
    HANDED_ELSEWHERE("handed on elsewhere"),
    FOREIGN("answers what is not taken"),
    NOT_PERMITTED("not permitted"),
    BROKEN_OFF("connection broken off", false),
    FAILED("failed", false);

    private final String words;
    private final boolean answered;

    Reason(String words) {
      this(words, true);
    }

    Reason(String words, boolean answered) {
      this.words = words;
      this.answered = answered;
    }

    /**
     * Whether something there answered, if only by refusing; else nothing came back, be it from
     * there or from what lies between.
     */
    public boolean answered() {
      return answered;
    }

    public String words() {
      return words;
    }

    /** The one of these words; empty when there is none any more. */
    public static Optional<Reason> of(String words) {
      return Arrays.stream(values()).filter(r -> r.words.equals(words)).findFirst();
    }
  }

  /** One sentence: what was tried and what answered. */
  public String sentence() {
    return reason.words() + ": " + tried + "; " + answered;
  }
}
