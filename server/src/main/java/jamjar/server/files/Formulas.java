package jamjar.server.files;

/**
 * A field of a CSV file that begins like a formula would be run by the spreadsheet in which it is
 * opened: an apostrophe before it makes it a text, and is taken away when the file comes back.
 */
public final class Formulas {
  private static final String BEGINS = "=+-@\t\r";

  private Formulas() {}

  /** What stands in the file for a value. */
  public static Object neutral(Object value) {
    return value instanceof String text && isFormula(text) ? "'" + text : value;
  }

  /** The value for which that stands. */
  public static String plain(String field) {
    return field.startsWith("'") && isFormula(field.substring(1)) ? field.substring(1) : field;
  }

  private static boolean isFormula(String text) {
    String bare = text.startsWith("'") ? text.replaceFirst("^'+", "") : text;
    return !bare.isEmpty() && BEGINS.indexOf(bare.charAt(0)) >= 0;
  }
}
