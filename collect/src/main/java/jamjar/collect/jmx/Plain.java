package jamjar.collect.jmx;

import javax.management.ObjectName;

/**
 * What came over the wire as a text. Only of types that are known: nothing of an object's own runs
 * here.
 */
final class Plain {
  /** A text is cut there; the longest class paths of real servers are shorter. */
  private static final int LONGEST = 32_000;

  private Plain() {}

  static String text(Object value) {
    String text;
    if (value == null) {
      text = "null";
    } else if (value instanceof String string) {
      text = string;
    } else if (value instanceof Number
        || value instanceof Boolean
        || value instanceof Character
        || value instanceof Enum
        || value instanceof ObjectName) {
      text = value.toString();
    } else if (value instanceof java.util.Date date) {
      text = date.toInstant().toString();
    } else {
      text = "of type " + value.getClass().getName();
    }
    // no database takes a NUL
    String clean = text.indexOf(0) < 0 ? text : text.replace("\0", "\uFFFD");
    return clean.length() > LONGEST ? clean.substring(0, LONGEST) + " …" : clean;
  }
}
