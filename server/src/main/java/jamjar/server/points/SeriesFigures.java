package jamjar.server.points;

import static jamjar.server.numbers.Numbers.known;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.core.chart.Figures;

/**
 * The figures of a series over a window; null where there is nothing.
 *
 * @param series its number
 * @param least the least reading
 * @param mean over the time that is covered
 * @param p95 at or below this it was for 95 % of that time
 * @param greatest the greatest reading
 * @param sum of a total all that it grew by, without "per second"; null for others
 */
public record SeriesFigures(
    int series,
    @Schema(types = {"number", "null"}) Double least,
    @Schema(types = {"number", "null"}) Double mean,
    @Schema(types = {"number", "null"}) Double p95,
    @Schema(types = {"number", "null"}) Double greatest,
    @Schema(types = {"number", "null"}) Double sum) {

  static SeriesFigures of(int series, Figures figures) {
    return new SeriesFigures(
        series,
        known(figures.least()),
        known(figures.mean()),
        known(figures.p95()),
        known(figures.greatest()),
        known(figures.sum()));
  }
}
