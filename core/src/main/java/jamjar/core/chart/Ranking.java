package jamjar.core.chart;

import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleFunction;

/**
 * The labels of one counter over a window, the greatest mean first, those without one last.
 *
 * @param all all together; empty where they do not add up and no series of its own is kept
 */
public record Ranking<T>(List<Row<T>> rows, Optional<Row<T>> all) {

  /**
   * One label, or all together.
   *
   * @param of what stands behind it; null for a sum that no series is kept of
   * @param value the latest; NaN for none, as are the others
   * @param share of the mean of all together, from 0 to 1; NaN where there is nothing to share
   */
  public record Row<T>(T of, double value, Summary summary, double share) {

    public static <T> Row<T> of(T of, double value, Summary summary) {
      return new Row<>(of, value, summary, Double.NaN);
    }

    private Row<T> sharing(Row<T> all) {
      double whole = all.summary().mean();
      return new Row<>(of, value, summary, whole > 0 ? summary.mean() / whole : Double.NaN);
    }
  }

  /**
   * @param rows the labels
   * @param whole the series that is kept of all together; empty for none
   * @param adds whether the labels add up: those of a quotient do not
   */
  public static <T> Ranking<T> of(List<Row<T>> rows, Optional<Row<T>> whole, boolean adds) {
    Optional<Row<T>> all =
        whole.isPresent() || !adds || rows.isEmpty() ? whole : Optional.of(together(rows));
    return new Ranking<>(
        rows.stream()
            .map(row -> adds && all.isPresent() ? row.sharing(all.get()) : row)
            .sorted(
                Comparator.comparingDouble(
                    row ->
                        Double.isNaN(row.summary().mean())
                            ? Double.POSITIVE_INFINITY
                            : -row.summary().mean()))
            .toList(),
        all);
  }

  /** The greatest readings of several are not those of one moment: together they have none. */
  private static <T> Row<T> together(List<Row<T>> rows) {
    return Row.of(
        null,
        sum(rows, Row::value),
        new Summary(
            sum(rows, row -> row.summary().mean()),
            Double.NaN,
            sum(rows, row -> row.summary().sum())));
  }

  /** Of those that are known; NaN where none is. */
  private static <T> double sum(List<Row<T>> rows, ToDoubleFunction<Row<T>> part) {
    double[] known = rows.stream().mapToDouble(part).filter(v -> !Double.isNaN(v)).toArray();
    return known.length == 0 ? Double.NaN : Arrays.stream(known).sum();
  }
}
