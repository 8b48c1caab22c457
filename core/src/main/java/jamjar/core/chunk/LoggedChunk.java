package jamjar.core.chunk;

import jamjar.core.log.LogEntry;
import jamjar.core.log.Logged;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.zip.DataFormatException;

/** What an engine logged, packed: each text stands once. */
public final class LoggedChunk {
  private static final byte FORM = 3;

  /** So many may come out of a chunk. */
  private static final int MOST_BYTES = 64 << 20;

  private static final LogEntry.Kind[] KINDS = LogEntry.Kind.values();
  private static final int COLUMNS = 3;

  private LoggedChunk() {}

  public static byte[] write(List<Logged> all) {
    Map<String, Integer> texts = new LinkedHashMap<>();
    VarintOutput reads = new VarintOutput();
    VarintOutput lines = new VarintOutput();
    long lastAt = 0;
    for (Logged logged : all) {
      long at = logged.at().toEpochMilli();
      reads.signed(at - lastAt);
      lastAt = at;
      reads.whole(text(texts, logged.file()));
      reads.whole(logged.offset());
      reads.signed(logged.thresholdMs());
      reads.whole(logged.lockWaits() ? 1 : 0);
      reads.whole(logged.left());
      reads.whole(logged.entries().size());
      for (LogEntry entry : logged.entries()) {
        lines.signed(entry.at() - at);
        lines.whole(entry.kind().ordinal());
        lines.whole(entry.pid());
        lines.signed(entry.at() - entry.started());
        for (String text :
            List.of(
                entry.user(), entry.program(), entry.database(), entry.state(), entry.message())) {
          lines.whole(text(texts, text));
        }
        lines.signed(entry.durationUs());
        lines.signed(entry.statement());
        lines.whole(entry.parties().size());
        for (LogEntry.Party party : entry.parties()) {
          lines.whole(party.pid());
          lines.whole(text(texts, party.wants()));
          lines.whole(party.blocker());
          lines.signed(party.statement());
        }
      }
    }
    VarintOutput head = new VarintOutput();
    head.whole(all.size());
    head.whole(texts.size());
    texts.keySet().forEach(head::text);
    return Deflated.write(FORM, List.of(head, reads, lines));
  }

  private static int text(Map<String, Integer> texts, String text) {
    return texts.computeIfAbsent(text, t -> texts.size());
  }

  /**
   * Hands them over one after the other.
   *
   * @throws CorruptChunk when the bytes were not written here, or are not whole
   */
  public static void read(byte[] bytes, Consumer<Logged> taking) {
    try {
      VarintInput[] columns = Deflated.columns(FORM, "lines of a log", bytes, COLUMNS, MOST_BYTES);
      VarintInput head = columns[0];
      int count = head.count();
      String[] texts = new String[head.count()];
      Arrays.setAll(texts, i -> head.text());
      long at = 0;
      for (int n = 0; n < count; n++) {
        VarintInput reads = columns[1];
        at += reads.signed();
        String file = texts[reads.index(texts.length)];
        long offset = reads.whole();
        long threshold = reads.signed();
        boolean lockWaits = reads.index(2) == 1;
        long left = reads.whole();
        int entries = reads.count();
        List<LogEntry> all = new ArrayList<>();
        for (int i = 0; i < entries; i++) {
          all.add(entry(columns[2], texts, at));
        }
        taking.accept(
            new Logged(Instant.ofEpochMilli(at), file, offset, threshold, lockWaits, left, all));
      }
    } catch (IndexOutOfBoundsException | NegativeArraySizeException | DataFormatException e) {
      throw new CorruptChunk("lines of a log that are not whole: " + e);
    }
  }

  private static LogEntry entry(VarintInput lines, String[] texts, long readAt) {
    long at = readAt + lines.signed();
    LogEntry.Kind kind = KINDS[lines.index(KINDS.length)];
    int pid = (int) lines.whole();
    long started = at - lines.signed();
    String user = texts[lines.index(texts.length)];
    String program = texts[lines.index(texts.length)];
    String database = texts[lines.index(texts.length)];
    String state = texts[lines.index(texts.length)];
    String message = texts[lines.index(texts.length)];
    long duration = lines.signed();
    long statement = lines.signed();
    int count = lines.count();
    List<LogEntry.Party> parties = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      parties.add(
          new LogEntry.Party(
              (int) lines.whole(),
              texts[lines.index(texts.length)],
              (int) lines.whole(),
              lines.signed()));
    }
    return new LogEntry(
        at, kind, pid, started, user, program, database, duration, statement, state, message,
        parties);
  }
}
