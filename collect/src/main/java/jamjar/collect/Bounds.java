package jamjar.collect;

import jamjar.core.reading.RawValue;
import java.util.List;

/** How much of one reading is taken: a target may have any number of labels, and of any length. */
public final class Bounds {
  /** Values of one reading. A large application server has about 1,500. */
  public static final int MOST_VALUES = 5_000;

  /** Rows of one query, managed beans of one pattern. */
  public static final int MOST_ROWS = 2_000;

  /** Characters of a label. */
  public static final int LONGEST_LABEL = 200;

  private Bounds() {}

  /**
   * Takes away what is beyond.
   *
   * @return what is told of that; empty for nothing
   */
  public static String cut(List<RawValue> values) {
    int all = values.size();
    if (all <= MOST_VALUES) {
      return "";
    }
    values.subList(MOST_VALUES, all).clear();
    return MOST_VALUES + " of " + all + " values of a reading are taken";
  }

  /** A label as it is taken: not longer, and without what no database takes. */
  public static String label(String text) {
    String clean = text.indexOf(0) < 0 ? text : text.replace("\0", "\uFFFD");
    return clean.length() > LONGEST_LABEL ? clean.substring(0, LONGEST_LABEL) + "…" : clean;
  }
}
