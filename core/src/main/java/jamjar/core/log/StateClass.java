package jamjar.core.log;

import java.util.Map;

/**
 * Classes of SQLSTATE codes, by their first two characters, as ISO/IEC 9075 and PostgreSQL's
 * documentation name them (appendix "Error Codes").
 */
public final class StateClass {
  private static final Map<String, String> WORDS =
      Map.ofEntries(
          Map.entry("08", "connection"),
          Map.entry("0A", "feature not supported"),
          Map.entry("21", "cardinality violated"),
          Map.entry("22", "data that does not fit"),
          Map.entry("23", "integrity constraint violated"),
          Map.entry("25", "state of the transaction"),
          Map.entry("28", "signing in"),
          Map.entry("2B", "privileges that depend on others"),
          Map.entry("3D", "no such database"),
          Map.entry("40", "transaction rolled back"),
          Map.entry("42", "syntax, names or rights"),
          Map.entry("53", "resources used up"),
          Map.entry("54", "limit of the engine exceeded"),
          Map.entry("55", "object not in the state it needs"),
          Map.entry("57", "ended by somebody or a time-out"),
          Map.entry("58", "operating system"),
          Map.entry("P0", "raised by a procedure"),
          Map.entry("XX", "fault of the engine"));

  private StateClass() {}

  public static String words(String state) {
    String name = state.length() < 2 ? "" : state.substring(0, 2);
    return WORDS.getOrDefault(name, "other");
  }
}
