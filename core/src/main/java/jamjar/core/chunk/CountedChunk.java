package jamjar.core.chunk;

import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.zip.DataFormatException;

/**
 * What was counted of the statements of one engine, packed: which statements these are stands once,
 * in a dictionary; a minute refers to it. One minute alone, the minutes of an hour and an hour's
 * sums have one form.
 */
public final class CountedChunk {
  private static final byte FORM = 2;

  /** So many may come out of a chunk: an hour of 2,000 statements a minute. */
  private static final int MOST_BYTES = 32 << 20;

  private static final int COLUMNS = 10;

  private CountedChunk() {}

  public static byte[] write(List<Counted> all) {
    Map<String, Integer> texts = new LinkedHashMap<>();
    Map<StatementKey, Integer> keys = new LinkedHashMap<>();
    // in their order, so that each refers to one soon after the one before
    all.stream()
        .flatMap(counted -> counted.statements().keySet().stream())
        .sorted()
        .forEach(key -> keys.putIfAbsent(key, keys.size()));
    VarintOutput head = new VarintOutput();
    VarintOutput dictionary = new VarintOutput();
    keys.keySet()
        .forEach(
            key -> {
              dictionary.signed(key.fingerprint());
              dictionary.whole(texts.computeIfAbsent(key.user(), t -> texts.size()));
              dictionary.whole(texts.computeIfAbsent(key.database(), t -> texts.size()));
              dictionary.whole(key.top() ? 1 : 0);
            });
    head.whole(all.size());
    head.whole(texts.size());
    texts.keySet().forEach(head::text);
    head.whole(keys.size());
    VarintOutput moments = new VarintOutput();
    VarintOutput refs = new VarintOutput();
    VarintOutput[] numbers = new VarintOutput[6];
    Arrays.setAll(numbers, i -> new VarintOutput());
    long lastAt = 0;
    for (Counted counted : all) {
      moments.signed(counted.at().toEpochMilli() - lastAt);
      lastAt = counted.at().toEpochMilli();
      moments.whole(counted.elapsedMs());
      moments.whole(counted.evicted());
      moments.whole(counted.statements().size());
      int last = -1;
      for (Map.Entry<StatementKey, StatementCounts> entry : counted.statements().entrySet()) {
        int ref = keys.get(entry.getKey());
        refs.whole(ref - last - 1L);
        last = ref;
        StatementCounts counts = entry.getValue();
        numbers[0].whole(counts.calls());
        numbers[1].whole(counts.timeUs());
        numbers[2].whole(counts.rows());
        numbers[3].whole(counts.hit());
        numbers[4].whole(counts.read());
        numbers[5].whole(counts.temporary());
      }
    }
    List<VarintOutput> columns = new ArrayList<>(List.of(head, dictionary, moments, refs));
    columns.addAll(Arrays.asList(numbers));
    return Deflated.write(FORM, columns);
  }

  /**
   * Hands them over one after the other.
   *
   * @throws CorruptChunk when the bytes were not written here, or are not whole
   */
  public static void read(byte[] bytes, Consumer<Counted> taking) {
    try {
      read(Deflated.columns(FORM, "counts of statements", bytes, COLUMNS, MOST_BYTES), taking);
    } catch (IndexOutOfBoundsException | NegativeArraySizeException | DataFormatException e) {
      throw new CorruptChunk("counts of statements that are not whole: " + e);
    }
  }

  private static void read(VarintInput[] columns, Consumer<Counted> taking) {
    VarintInput head = columns[0];
    int count = head.count();
    String[] texts = new String[head.count()];
    Arrays.setAll(texts, i -> head.text());
    StatementKey[] keys = new StatementKey[head.count()];
    VarintInput dictionary = columns[1];
    Arrays.setAll(
        keys,
        i -> {
          long fingerprint = dictionary.signed();
          String user = texts[dictionary.index(texts.length)];
          String database = texts[dictionary.index(texts.length)];
          return new StatementKey(user, database, fingerprint, dictionary.index(2) == 1);
        });
    VarintInput moments = columns[2];
    VarintInput refs = columns[3];
    long at = 0;
    for (int n = 0; n < count; n++) {
      at += moments.signed();
      long elapsed = moments.whole();
      long evicted = moments.whole();
      int statements = moments.upTo(keys.length);
      SortedMap<StatementKey, StatementCounts> all = new TreeMap<>();
      int ref = -1;
      for (int i = 0; i < statements; i++) {
        ref += 1 + refs.index(keys.length - ref - 1);
        all.put(
            keys[ref],
            new StatementCounts(
                columns[4].whole(),
                columns[5].whole(),
                columns[6].whole(),
                columns[7].whole(),
                columns[8].whole(),
                columns[9].whole()));
      }
      taking.accept(new Counted(Instant.ofEpochMilli(at), elapsed, evicted, all));
    }
  }
}
