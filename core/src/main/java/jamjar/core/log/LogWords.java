package jamjar.core.log;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.ToLongFunction;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What messages of a PostgreSQL log say, as it says them in English. */
public final class LogWords {
  private static final int LONGEST = 300;
  private static final Pattern DURATION = Pattern.compile("^duration: (\\d+)\\.(\\d{3}) ms");
  private static final Pattern SENT =
      Pattern.compile(
          "^duration: [\\d.]+ ms {2}(?:statement|execute [^:]*|fastpath function call): (.*)$",
          Pattern.DOTALL);
  private static final Pattern ACQUIRED =
      Pattern.compile("^process (\\d+) acquired (\\w+) on (.*) after (\\d+)\\.(\\d{3}) ms$");
  private static final Pattern WAITS =
      Pattern.compile("^Process (\\d+) waits for (\\w+) on (.*); blocked by process (\\d+)\\.$");
  private static final Pattern RAN = Pattern.compile("^Process (\\d+): (.*)$");

  /** Names of things stay; what else stands in quotes may be a value. */
  private static final Pattern QUOTED =
      Pattern.compile(
          "(\\b(?:relation|table|column|constraint|index|schema|database|role|user|function"
              + "|extension|type|parameter|sequence|view|trigger|tablespace|slot) )?"
              + "(?:\"[^\"]*\"|'[^']*')");

  private static final Pattern NUMBER = Pattern.compile("(?<![\\w.])\\d[\\d.]*(?![\\w])");

  private LogWords() {}

  /** How long a statement took, in µs; empty where a message is not about that. */
  public static OptionalLong durationUs(String message) {
    Matcher told = DURATION.matcher(message);
    return told.find()
        ? OptionalLong.of(Long.parseLong(told.group(1)) * 1000 + Long.parseLong(told.group(2)))
        : OptionalLong.empty();
  }

  /**
   * What was run, as it was sent; empty where only a part of it was logged, such as its parsing.
   */
  public static String sent(String message) {
    Matcher told = SENT.matcher(message);
    return told.find() ? told.group(1) : "";
  }

  /**
   * A wait for a lock that is over.
   *
   * @param lock in the engine's words
   */
  public record Acquired(int pid, String lock, long waitedUs) {}

  /** Empty where a message is not about that. */
  public static Optional<Acquired> acquired(String message) {
    Matcher told = ACQUIRED.matcher(message);
    return told.find()
        ? Optional.of(
            new Acquired(
                Integer.parseInt(told.group(1)),
                told.group(2) + " on " + withoutValues(told.group(3)),
                Long.parseLong(told.group(4)) * 1000 + Long.parseLong(told.group(5))))
        : Optional.empty();
  }

  /**
   * Those in a deadlock, as its detail tells them.
   *
   * @param fingerprint of a statement as it was sent
   */
  public static List<LogEntry.Party> parties(String detail, ToLongFunction<String> fingerprint) {
    Map<Integer, LogEntry.Party> parties = new LinkedHashMap<>();
    Map<Integer, StringBuilder> ran = new LinkedHashMap<>();
    StringBuilder last = null;
    for (String line : detail.split("\n")) {
      Matcher waits = WAITS.matcher(line.strip());
      Matcher runs = RAN.matcher(line.strip());
      if (waits.find()) {
        int pid = Integer.parseInt(waits.group(1));
        parties.put(
            pid,
            new LogEntry.Party(
                pid,
                waits.group(2) + " on " + withoutValues(waits.group(3)),
                Integer.parseInt(waits.group(4)),
                0));
        last = null;
      } else if (runs.find()) {
        last = new StringBuilder(runs.group(2));
        ran.put(Integer.parseInt(runs.group(1)), last);
      } else if (last != null) {
        // a statement of several lines
        last.append('\n').append(line);
      }
    }
    List<LogEntry.Party> all = new ArrayList<>();
    parties.forEach(
        (pid, party) ->
            all.add(
                new LogEntry.Party(
                    pid,
                    party.wants(),
                    party.blocker(),
                    ran.containsKey(pid) ? fingerprint.applyAsLong(ran.get(pid).toString()) : 0)));
    return all;
  }

  /** A message without what may be a value: names of things stay. */
  public static String withoutValues(String message) {
    String text =
        QUOTED
            .matcher(message)
            .replaceAll(
                m ->
                    m.group(1) != null && m.group().endsWith("\"")
                        ? Matcher.quoteReplacement(m.group())
                        : (m.group(1) == null ? "" : Matcher.quoteReplacement(m.group(1))) + "…");
    text = NUMBER.matcher(text).replaceAll("?");
    // what stands behind a colon at the end is given by somebody, mostly
    text = text.replaceAll(":\\s+[^ ].*\\?.*$", ": …").replace('\n', ' ').strip();
    return text.length() > LONGEST ? text.substring(0, LONGEST) + "…" : text;
  }
}
