package jamjar.server.telling;

import jamjar.server.problems.Problem;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a hook is sent: JSON in which names in double braces stand for what is told. There is
 * nothing in it that could be run: any other name is refused, and what is put in is a text within
 * quotes.
 */
final class Template {
  static final List<String> NAMES =
      List.of(
          "key",
          "kind",
          "severity",
          "matter",
          "recipient",
          "subject",
          "text",
          "link",
          "at",
          "thread");
  private static final Pattern BRACES = Pattern.compile("\\{\\{([^{}]*)}}");
  private static final JsonMapper JSON = new JsonMapper();

  private Template() {}

  /** What a letter tells, by name. */
  static Map<String, String> values(Letter letter) {
    Map<String, String> all = new LinkedHashMap<>();
    all.put("key", letter.key());
    all.put("kind", letter.kind());
    all.put("severity", letter.severity());
    all.put("matter", letter.matter());
    all.put("recipient", letter.recipient());
    all.put("subject", letter.subject());
    all.put("text", letter.body());
    all.put("link", letter.link());
    all.put("at", Long.toString(letter.at()));
    all.put("thread", letter.thread());
    return all;
  }

  /**
   * @throws Problem where it names what is not told, or is no JSON
   */
  static void check(String template) {
    Matcher braces = BRACES.matcher(template);
    while (braces.find()) {
      if (!NAMES.contains(braces.group(1).strip())) {
        throw Problem.field(
            "hook.template",
            "Nothing is told as {{"
                + Addresses.head(braces.group(1))
                + "}}: these are: "
                + String.join(", ", NAMES)
                + ".");
      }
    }
    String rest = braces.replaceAll("");
    if (rest.contains("{{") && rest.contains("}}")) {
      throw Problem.field("hook.template", "Braces stand within braces.");
    }
    try {
      JSON.readTree(BRACES.matcher(template).replaceAll("x"));
    } catch (JacksonException e) {
      throw Problem.field(
          "hook.template", "It is no JSON: " + Addresses.head(e.getOriginalMessage()));
    }
  }

  /** What is sent; all there is where there is no template. */
  static String filled(String template, Letter letter) {
    Map<String, String> values = values(letter);
    if (template.isEmpty()) {
      Map<String, Object> all = new LinkedHashMap<>();
      all.put("version", 1);
      all.putAll(values);
      all.put("at", letter.at());
      all.put("alerts", letter.alerts());
      return JSON.writeValueAsString(all);
    }
    return BRACES
        .matcher(template)
        .replaceAll(
            match -> {
              String quoted =
                  JSON.writeValueAsString(values.getOrDefault(match.group(1).strip(), ""));
              return Matcher.quoteReplacement(quoted.substring(1, quoted.length() - 1));
            });
  }
}
