package jamjar.store.intake;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonProperty;
import jamjar.core.reading.SeriesKey;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.readings.LaidOut;
import jamjar.store.readings.ReadingRow;
import jamjar.store.readings.TotalsRow;
import java.nio.ByteBuffer;
import java.time.Instant;
import java.util.Map;
import java.util.SortedMap;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * Entries of the journal as bytes: a byte for the kind, and what it holds. Readings are numbers one
 * after the other; all else is seldom, and JSON. A kind once given is never given anew.
 */
final class Entries {
  private static final byte READING = 1;
  private static final byte SAMPLED = 10;
  private static final byte COUNTED = 11;
  private static final byte LOGGED = 12;

  private static final Map<Byte, Class<? extends Kept>> KINDS =
      Map.ofEntries(
          Map.entry((byte) 2, Kept.Series.class),
          Map.entry((byte) 3, Kept.Layout.class),
          Map.entry((byte) 4, Kept.JudgedAt.class),
          Map.entry((byte) 5, Kept.Silent.class),
          Map.entry((byte) 6, Kept.Answers.class),
          Map.entry((byte) 7, Kept.Facts.class),
          Map.entry((byte) 8, Kept.Beat.class),
          Map.entry((byte) 9, Kept.NotWatched.class),
          Map.entry((byte) 13, Kept.Dumped.class),
          Map.entry((byte) 14, Kept.Message.class),
          Map.entry((byte) 15, Kept.Sent.class),
          Map.entry((byte) 16, Kept.Decided.class));

  private static final JsonMapper JSON =
      JsonMapper.builder()
          .addMixIn(SeriesKey.class, Key.class)
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .build();

  private static final TypeReference<Map<Long, String>> TEXTS = new TypeReference<>() {};

  /** How the key of a series is written: it has no fields of that form. */
  private abstract static class Key {
    @JsonCreator
    Key(
        @JsonProperty("counter") String counter,
        @JsonProperty("labels") Map<String, String> labels) {
      // tells the names only
    }

    @JsonProperty
    abstract String counter();

    @JsonProperty
    abstract SortedMap<String, String> labels();
  }

  private Entries() {}

  static byte[] write(Kept kept) {
    if (kept instanceof Kept.Reading reading) {
      return write(reading.reading());
    }
    if (kept instanceof Kept.Sampled sampled) {
      return packed(SAMPLED, sampled.instance(), sampled.at(), sampled.body(), sampled.texts());
    }
    if (kept instanceof Kept.Counted counted) {
      return packed(COUNTED, counted.instance(), counted.at(), counted.body(), counted.texts());
    }
    if (kept instanceof Kept.Logged logged) {
      return packed(LOGGED, logged.instance(), logged.at(), logged.body(), logged.texts());
    }
    byte kind =
        KINDS.entrySet().stream()
            .filter(known -> known.getValue() == kept.getClass())
            .findFirst()
            .orElseThrow()
            .getKey();
    byte[] json = JSON.writeValueAsBytes(kept);
    return ByteBuffer.allocate(1 + json.length).put(kind).put(json).array();
  }

  /**
   * @throws IllegalArgumentException when it is of no kind that is known here, or not whole
   */
  static Kept read(byte[] entry) {
    ByteBuffer in = ByteBuffer.wrap(entry);
    byte kind = entry.length == 0 ? 0 : in.get();
    try {
      if (kind == READING) {
        return new Kept.Reading(reading(in));
      }
      if (kind == SAMPLED) {
        return new Kept.Sampled(in.getInt(), instant(in), body(in), texts(in));
      }
      if (kind == COUNTED) {
        return new Kept.Counted(in.getInt(), instant(in), body(in), texts(in));
      }
      if (kind == LOGGED) {
        return new Kept.Logged(in.getInt(), instant(in), body(in), texts(in));
      }
      Class<? extends Kept> known = KINDS.get(kind);
      if (known == null) {
        throw new IllegalArgumentException("an entry of kind " + kind + " is not known here");
      }
      return JSON.readValue(entry, 1, entry.length - 1, known);
    } catch (IllegalArgumentException e) {
      throw e;
    } catch (RuntimeException e) {
      throw new IllegalArgumentException("an entry of kind " + kind + " can't be read: " + e, e);
    }
  }

  private static byte[] packed(
      byte kind, int instance, Instant at, byte[] body, Map<Long, String> told) {
    byte[] texts = told.isEmpty() ? new byte[0] : JSON.writeValueAsBytes(told);
    ByteBuffer out = ByteBuffer.allocate(32 + body.length + texts.length);
    out.put(kind).putInt(instance);
    instant(out, at);
    out.putInt(body.length).put(body).put(texts);
    byte[] bytes = new byte[out.position()];
    out.flip().get(bytes);
    return bytes;
  }

  private static byte[] body(ByteBuffer in) {
    byte[] body = new byte[count(in, 1)];
    in.get(body);
    return body;
  }

  private static Map<Long, String> texts(ByteBuffer in) {
    return in.hasRemaining()
        ? JSON.readValue(in.array(), in.position(), in.remaining(), TEXTS)
        : Map.of();
  }

  private static byte[] write(LaidOut reading) {
    ReadingRow row = reading.row();
    TotalsRow totals = reading.totals();
    byte[] judged =
        reading.judged().changes().isEmpty()
            ? new byte[0]
            : JSON.writeValueAsBytes(reading.judged());
    int n = row.vals().length;
    int t = totals.totals().length;
    ByteBuffer out =
        ByteBuffer.allocate(128 + 9 * n + 16 * t + 4 * totals.nothing().length + judged.length);
    out.put(READING).putInt(row.instance()).put((byte) row.source()).putInt(row.layout());
    instant(out, row.at());
    instant(out, row.arrived());
    out.putInt(row.elapsedMs()).putLong(row.seq()).putInt(n);
    for (double value : row.vals()) {
      out.putDouble(value);
    }
    out.put(reading.why());
    instant(out, totals.at());
    out.putLong(totals.sourceUs()).putLong(totals.startToken()).putInt(t);
    for (int i = 0; i < t; i++) {
      out.putLong(totals.totals()[i]).putLong(totals.epochs()[i]);
    }
    out.putInt(totals.nothing().length);
    for (int id : totals.nothing()) {
      out.putInt(id);
    }
    out.put(judged);
    byte[] bytes = new byte[out.position()];
    out.flip().get(bytes);
    return bytes;
  }

  private static LaidOut reading(ByteBuffer in) {
    int instance = in.getInt();
    int source = in.get();
    int layout = in.getInt();
    Instant at = instant(in);
    Instant arrived = instant(in);
    int elapsed = in.getInt();
    long seq = in.getLong();
    double[] values = new double[count(in, Double.BYTES + 1)];
    for (int i = 0; i < values.length; i++) {
      values[i] = in.getDouble();
    }
    byte[] why = new byte[values.length];
    in.get(why);
    Instant totalsAt = instant(in);
    long sourceUs = in.getLong();
    long start = in.getLong();
    long[] totals = new long[count(in, 2 * Long.BYTES)];
    long[] epochs = new long[totals.length];
    for (int i = 0; i < totals.length; i++) {
      totals[i] = in.getLong();
      epochs[i] = in.getLong();
    }
    int[] nothing = new int[count(in, Integer.BYTES)];
    for (int i = 0; i < nothing.length; i++) {
      nothing[i] = in.getInt();
    }
    Judged judged =
        in.hasRemaining()
            ? JSON.readValue(in.array(), in.position(), in.remaining(), Judged.class)
            : Judged.NOTHING;
    return new LaidOut(
        new ReadingRow(instance, at, source, layout, elapsed, seq, arrived, values),
        why,
        new TotalsRow(
            instance, source, totalsAt, seq, sourceUs, start, layout, totals, epochs, nothing),
        judged);
  }

  /** How many follow, of so many bytes each. */
  private static int count(ByteBuffer in, int bytes) {
    int count = in.getInt();
    if (count < 0 || (long) count * bytes > in.remaining()) {
      throw new IllegalArgumentException(
          "an entry tells of " + count + " values where " + in.remaining() + " bytes are");
    }
    return count;
  }

  private static void instant(ByteBuffer out, Instant at) {
    out.putLong(at.getEpochSecond()).putInt(at.getNano());
  }

  private static Instant instant(ByteBuffer in) {
    return Instant.ofEpochSecond(in.getLong(), in.getInt());
  }
}
