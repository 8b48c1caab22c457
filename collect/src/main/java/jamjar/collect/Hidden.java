package jamjar.collect;

import java.util.regex.Pattern;

/** Leaves passwords out of what a target says of itself. */
public final class Hidden {
  private static final Pattern NAME =
      Pattern.compile("(?i).*(passw|passphrase|secret|token|credential|private|api.?key).*");
  private static final Pattern ARGUMENT =
      Pattern.compile(
          "(?i)((?:[\\w.-]*(?:passw|passphrase|secret|token|credential|api.?key)[\\w.-]*)[=: ])\\S+");
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
