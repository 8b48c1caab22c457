package jamjar.collect.postgresql;

import jamjar.collect.Bounds;
import jamjar.core.log.LogEntry;
import jamjar.core.log.LogWords;
import jamjar.core.session.StatementText;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * Lines of an engine's own log in its form csvlog (since version 13: at least 23 columns). What may
 * be a value is taken out before anything leaves here.
 */
final class CsvLines {
  private static final int TIME = 0;
  private static final int USER = 1;
  private static final int DATABASE = 2;
  private static final int PID = 3;
  private static final int SESSION_START = 8;
  private static final int SEVERITY = 11;
  private static final int STATE = 12;
  private static final int MESSAGE = 13;
  private static final int DETAIL = 14;
  private static final int CONTEXT = 18;
  private static final int QUERY = 19;
  private static final int PROGRAM = 22;

  private static final int MOST_PARTIES = 20;
  private static final String CANCELLED = "canceling statement";
  private static final String RAISED = "raised by a procedure, in words that are not kept";
  private static final String DEADLOCK = "40P01";
  private static final List<String> ERRORS = List.of("ERROR", "FATAL", "PANIC");

  /** Such as 2026-11-26 02:10:05.123 CET. */
  private static final DateTimeFormatter WHEN =
      new DateTimeFormatterBuilder()
          .appendPattern("uuuu-MM-dd HH:mm:ss")
          .optionalStart()
          .appendFraction(ChronoField.MILLI_OF_SECOND, 0, 3, true)
          .optionalEnd()
          .toFormatter(Locale.ROOT);

  /** How a line begins. */
  private static final Pattern BEGIN =
      Pattern.compile("(?:^|\\n)(?=\\d{4}-\\d\\d-\\d\\d \\d\\d:\\d\\d:\\d\\d)");

  private final ZoneId zone;
  private final Map<Long, String> texts;
  private boolean passedOver;

  /**
   * @param zone of its times: what they are written with may be that of several
   * @param texts takes the texts of statements that lines are about, by fingerprint
   */
  CsvLines(ZoneId zone, Map<Long, String> texts) {
    this.zone = zone;
    this.texts = texts;
  }

  /** How many of these bytes are whole lines: a statement of many lines stands in quotes. */
  static int whole(byte[] bytes) {
    int end = 0;
    boolean quoted = false;
    for (int i = 0; i < bytes.length; i++) {
      if (bytes[i] == '"') {
        quoted = !quoted;
      } else if (bytes[i] == '\n' && !quoted) {
        end = i + 1;
      }
    }
    return end;
  }

  /**
   * Where the first whole line begins, in bytes of which the first may lie within one, within
   * quotes, too.
   *
   * @return how many there are, where none does
   */
  static int begin(byte[] bytes) {
    // a byte each, so that places are places of bytes
    Matcher begin = BEGIN.matcher(new String(bytes, StandardCharsets.ISO_8859_1));
    return begin.find() ? begin.end() : bytes.length;
  }

  /** Whether lines were passed over because one was none. */
  boolean passedOver() {
    return passedOver;
  }

  /** What these lines tell that is kept; what can't be read is passed over. */
  List<LogEntry> read(byte[] bytes, int length) {
    List<LogEntry> entries = new ArrayList<>();
    String text = new String(bytes, 0, length, StandardCharsets.UTF_8);
    try (CSVParser parser = CSVFormat.DEFAULT.parse(new StringReader(text))) {
      for (CSVRecord line : parser) {
        try {
          entry(line).ifPresent(entries::add);
        } catch (RuntimeException e) {
          // a line that nobody foresaw takes none of the others with it
          passedOver = true;
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException("a text is read from the heap", e);
    } catch (UncheckedIOException | IllegalStateException e) {
      // a line that is no csv: what came before it counts, the rest is passed over
      passedOver = true;
      return entries;
    }
    return entries;
  }

  private Optional<LogEntry> entry(CSVRecord line) {
    if (line.size() <= PROGRAM) {
      return Optional.empty();
    }
    OptionalLong at = millis(line.get(TIME));
    if (at.isEmpty() || line.get(PROGRAM).startsWith("jamjar")) {
      return Optional.empty();
    }
    String message = line.get(MESSAGE);
    String state = Bounds.label(line.get(STATE));
    // who says what the engine says is not the engine
    boolean raised = LogWords.isRaised(state, line.get(CONTEXT));
    OptionalLong duration = raised ? OptionalLong.empty() : LogWords.durationUs(message);
    if (duration.isPresent()) {
      String sent = LogWords.sent(message);
      return sent.isEmpty()
          ? Optional.empty()
          : Optional.of(
              of(line, at.getAsLong(), LogEntry.Kind.FINISHED, duration.getAsLong(), sent, "", 0));
    }
    Optional<LogWords.Acquired> acquired = raised ? Optional.empty() : LogWords.acquired(message);
    if (acquired.isPresent()) {
      return Optional.of(
          of(
              line,
              at.getAsLong(),
              LogEntry.Kind.WAITED,
              acquired.get().waitedUs(),
              line.get(QUERY),
              acquired.get().lock(),
              0));
    }
    if (!ERRORS.contains(line.get(SEVERITY))) {
      return Optional.empty();
    }
    LogEntry.Kind kind =
        state.equals(DEADLOCK) && !raised
            ? LogEntry.Kind.DEADLOCK
            : message.startsWith(CANCELLED) && !raised
                ? LogEntry.Kind.CANCELLED
                : LogEntry.Kind.ERROR;
    return Optional.of(
        of(
            line,
            at.getAsLong(),
            kind,
            -1,
            line.get(QUERY),
            raised ? RAISED : LogWords.withoutValues(state, message),
            kind == LogEntry.Kind.DEADLOCK ? MOST_PARTIES : 0));
  }

  private LogEntry of(
      CSVRecord line,
      long at,
      LogEntry.Kind kind,
      long durationUs,
      String sent,
      String message,
      int parties) {
    return new LogEntry(
        at,
        kind,
        number(line.get(PID)),
        millis(line.get(SESSION_START)).orElse(at),
        Bounds.label(line.get(USER)),
        Bounds.label(line.get(PROGRAM)),
        Bounds.label(line.get(DATABASE)),
        durationUs,
        fingerprint(sent),
        Bounds.label(line.get(STATE)),
        message.replace("\0", ""),
        parties == 0
            ? List.of()
            : LogWords.parties(line.get(DETAIL), this::fingerprint).stream()
                .limit(parties)
                .toList());
  }

  private long fingerprint(String sent) {
    if (sent.isBlank()) {
      return 0;
    }
    StatementText text = StatementText.of(sent);
    texts.put(text.fingerprint(), text.text().replace("\0", ""));
    return text.fingerprint();
  }

  private static int number(String text) {
    try {
      return Integer.parseInt(text);
    } catch (NumberFormatException e) {
      return 0;
    }
  }

  private OptionalLong millis(String text) {
    int end = text.lastIndexOf(' ');
    if (end < 0) {
      return OptionalLong.empty();
    }
    try {
      LocalDateTime local = LocalDateTime.parse(text.substring(0, end), WHEN);
      return OptionalLong.of(local.atZone(zone).toInstant().toEpochMilli());
    } catch (DateTimeException e) {
      return OptionalLong.empty();
    }
  }
}
