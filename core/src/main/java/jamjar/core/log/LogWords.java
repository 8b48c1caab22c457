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

  /** So much of a message is looked at. */
  private static final int LOOKED_AT = 2_000;

  private static final Pattern DURATION = Pattern.compile("^duration: (\\d{1,12})\\.(\\d{3}) ms");
  private static final Pattern SENT =
      Pattern.compile(
          "^duration: [\\d.]+ ms {2}(?:statement|execute [^:]*|fastpath function call): (.*)$",
          Pattern.DOTALL);
  private static final Pattern ACQUIRED =
      Pattern.compile(
          "^process (\\d{1,9}) acquired (\\w+) on (.*) after (\\d{1,12})\\.(\\d{3}) ms$");
  private static final Pattern WAITS =
      Pattern.compile(
          "^Process (\\d{1,9}) waits for (\\w+) on (.*); blocked by process (\\d{1,9})\\.$");
  private static final Pattern RAN = Pattern.compile("^Process (\\d{1,9}): (.*)$");

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

  /**
   * Whether somebody's procedure said it, in words of its own: of these nothing is kept, for any of
   * them may be a value, and none is the engine's.
   *
   * @param state the code of what happened
   * @param context in which it happened, as the engine tells it
   */
  public static boolean isRaised(String state, String context) {
    String where = context.lines().findFirst().orElse("");
    return state.equals("P0001")
        || state.startsWith("38")
        || state.startsWith("39")
        || where.endsWith(" at RAISE")
        || where.startsWith("PL/") && !where.startsWith("PL/pgSQL");
  }

  /** What went wrong with data is said before a colon, the data behind it. */
  public static String withoutValues(String state, String message) {
    int colon = message.indexOf(": ");
    return withoutValues(
        state.startsWith("22") && colon > 0 ? message.substring(0, colon) : message);
  }

  /** A message without what may be a value: names of things stay. */
  static String withoutValues(String message) {
    String begin = message;
    if (message.length() > LOOKED_AT) {
      begin = message.substring(0, LOOKED_AT);
      // what was cut off within quotes has lost one of them
      int quote = Math.max(begin.lastIndexOf('"'), begin.lastIndexOf('\''));
      begin = quote < 0 ? begin : begin.substring(0, quote);
    }
    String text =
        QUOTED
            .matcher(begin)
            .replaceAll(
                m ->
                    m.group(1) != null && m.group().endsWith("\"")
                        ? Matcher.quoteReplacement(m.group())
                        : (m.group(1) == null ? "" : Matcher.quoteReplacement(m.group(1))) + "…");
    text = NUMBER.matcher(text).replaceAll("?").replace('\n', ' ').strip();
    return text.length() > LONGEST ? text.substring(0, LONGEST) + "…" : text;
  }
}
