package jamjar.collect;

import java.util.regex.Pattern;

/**
 * Leaves passwords out of what a target says of itself. Its texts may be long: what is looked for
 * is bounded.
 */
public final class Hidden {
  private static final String WORDS =
      "passw|passphrase|passwd|pwd|secret|token|credential|api.?key|access.?key|private.?key";
  private static final Pattern NAME =
      Pattern.compile("(?i).*(" + WORDS + "|private).*|(?i)(.*[._-])?(pwd|pass|auth)([._-].*)?");
  private static final Pattern ARGUMENT =
      Pattern.compile(
          "(?i)((?:[\\w.-]{0,80}(?:"
              + WORDS
              + ")[\\w.-]{0,80}|(?:[\\w.-]{0,80}[._-])?(?:pwd|pass))[=: ])\\S+");
  private static final Pattern IN_ADDRESS = Pattern.compile("(\\w://[^:/@\\s]+:)[^@\\s]+@");
  private static final String STARS = "…";

  private Hidden() {}

  /** A value as it may be shown. */
  public static String value(String name, String value) {
    if (NAME.matcher(name).matches() && !value.isEmpty()) {
      return STARS;
    }
    return text(value);
  }

  /** A text, such as start arguments, as it may be shown. */
  public static String text(String text) {
    String hidden = ARGUMENT.matcher(text).replaceAll("$1" + STARS);
    return IN_ADDRESS.matcher(hidden).replaceAll("$1" + STARS + "@");
  }
}
