package jamjar.collect;

import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.zip.CRC32;

/** How much of one reading is taken: a target may have any number of labels, and of any length. */
public final class Bounds {
  /** Values of one reading. A large application server has about 1,500. */
  public static final int MOST_VALUES = 5_000;

  /** Rows of one query, managed beans of one pattern. */
  public static final int MOST_ROWS = 2_000;

  /** Characters of a label. */
  public static final int LONGEST_LABEL = 200;

  private Bounds() {}

  /** Rows of one query that fill so many counters each: one query leaves room for the others. */
  public static int mostRows(int counters) {
    return Math.min(MOST_ROWS, MOST_VALUES / 2 / Math.max(1, counters));
  }

  /**
   * Takes away what is beyond, and what is told twice: of two beans whose names make the same label
   * the first counts that tells something.
   *
   * @return what is told of that; empty for nothing
   */
  public static String cut(List<RawValue> values) {
    Map<SeriesKey, RawValue> first = new LinkedHashMap<>(2 * values.size());
    for (RawValue value : values) {
      first.merge(
          value.series(), value, (one, other) -> one instanceof RawValue.Nothing ? other : one);
    }
    if (first.size() < values.size()) {
      values.clear();
      values.addAll(first.values());
    }
    int all = values.size();
    if (all <= MOST_VALUES) {
      return "";
    }
    values.subList(MOST_VALUES, all).clear();
    return MOST_VALUES + " of " + all + " values of a reading are taken";
  }

  /**
   * A label as it is taken: without what no database takes, and not longer; two that differ only
   * beyond that stay apart by a checksum.
   */
  public static String label(String text) {
    String clean = text.indexOf(0) < 0 ? text : text.replace("\0", "\uFFFD");
    if (clean.length() <= LONGEST_LABEL) {
      return clean;
    }
    CRC32 whole = new CRC32();
    whole.update(clean.getBytes(StandardCharsets.UTF_8));
    String sum = String.format(Locale.ROOT, "…%08x", whole.getValue());
    return clean.substring(0, LONGEST_LABEL - sum.length()) + sum;
  }
}
