package jamjar.collect.recipe;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Puts entries into the text of a recipe; what a person has written there stays as it stands. */
public final class RecipeText {
  private final List<String> lines;

  private RecipeText(List<String> lines) {
    this.lines = lines;
  }

  /**
   * The text with one entry more.
   *
   * @param field a list or a mapping of the file, such as {@code counters}
   * @param entry one line of YAML: {@code {key: …}} for a list, {@code name: value} for a mapping
   * @param list which of the two it is
   * @throws IllegalArgumentException where the field is written over several lines in brackets
   */
  public static String with(String text, String field, String entry, boolean list) {
    RecipeText edited = new RecipeText(new ArrayList<>(text.stripTrailing().lines().toList()));
    edited.put(field, entry, list);
    return String.join("\n", edited.lines) + "\n";
  }

  private void put(String field, String entry, boolean list) {
    String written = (list ? "- " : "") + entry;
    Pattern head = Pattern.compile(Pattern.quote(field) + ":\\s*([^#]*?)\\s*(#.*)?");
    for (int i = 0; i < lines.size(); i++) {
      Matcher matcher = head.matcher(lines.get(i));
      if (!matcher.matches()) {
        continue;
      }
      String value = matcher.group(1);
      if (value.isEmpty()) {
        int end = end(i + 1);
        lines.add(end, " ".repeat(indent(i + 1, end)) + written);
      } else if (value.equals("[]") || value.equals("{}")) {
        lines.set(i, field + ":");
        lines.add(i + 1, "  " + written);
      } else if (value.endsWith("]") || value.endsWith("}")) {
        int last = value.length() - 1;
        lines.set(
            i, field + ": " + value.substring(0, last) + ", " + entry + value.substring(last));
      } else {
        throw new IllegalArgumentException(
            "'"
                + field
                + "' is written over several lines in brackets: put this in by hand: "
                + entry);
      }
      return;
    }
    lines.add(field + ":");
    lines.add("  " + written);
  }

  /** After the last line that belongs to a field; what follows begins in the first column. */
  private int end(int from) {
    int end = from;
    for (int i = from; i < lines.size(); i++) {
      String line = lines.get(i);
      if (line.startsWith(" ") && !line.isBlank() || line.startsWith("- ")) {
        end = i + 1;
      } else if (!line.isBlank() && !line.startsWith("#")) {
        break;
      }
    }
    return end;
  }

  private int indent(int from, int end) {
    for (int i = from; i < end; i++) {
      String line = lines.get(i);
      if (!line.isBlank() && !line.strip().startsWith("#")) {
        return line.length() - line.stripLeading().length();
      }
    }
    return 2;
  }
}
