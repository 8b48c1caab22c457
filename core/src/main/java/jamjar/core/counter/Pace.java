package jamjar.core.counter;

import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/** The paces of an instance; each is a source of readings with its own layout and interval. */
public enum Pace {
  /** Read at the interval of the instance. */
  FAST(1),
  /** Read at the interval of the recipe. */
  SLOW(2),
  /** Not read by itself: made each minute of what the fast one counted of single statements. */
  MINUTE(3);

  private final int code;

  Pace(int code) {
    this.code = code;
  }

  /** The pace of a word, as a recipe has it. */
  public static Optional<Pace> named(String word) {
    return Stream.of(values()).filter(pace -> pace.word().equals(word)).findFirst();
  }

  /**
   * @param code the number under which it is stored
   * @throws IllegalArgumentException when it is none
   */
  public static Pace of(int code) {
    return Stream.of(values())
        .filter(pace -> pace.code == code)
        .findFirst()
        .orElseThrow(() -> new IllegalArgumentException("no pace is stored as " + code));
  }

  /** Whether it is read by itself; else it is made of what the fast one counted. */
  public boolean isRead() {
    return this != MINUTE;
  }

  /** The number under which it is stored. */
  public int code() {
    return code;
  }

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }
}
