package jamjar.server.series;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.core.chart.Summary;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.reading.Shown;
import jamjar.server.problems.Problem;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.recipes.Recipes;
import jamjar.server.watch.Watch;
import jamjar.store.Store;
import jamjar.store.series.SeriesRow;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** A counter that has labels as a table: one row for each label, and one for all together. */
@RestController
@RequestMapping(path = "/api/instances", produces = "application/json")
class RankingController {
  private final Store store;
  private final Watch watch;
  private final Recipes recipes;
  private final SeriesSamples samples;

  RankingController(Store store, Watch watch, Recipes recipes, SeriesSamples samples) {
    this.store = store;
    this.watch = watch;
    this.recipes = recipes;
    this.samples = samples;
  }

  /**
   * A label over the window; what is null is not known, or can't be told of this counter.
   *
   * @param series its number; 0 for all together where no series of its own is kept
   * @param value the latest
   * @param sum of a total what it grew by within the window, without "per second"
   * @param share of all together, from 0 to 1; of quotients none
   */
  @Schema(name = "RankedRow")
  record Row(
      int series,
      Map<String, String> labels,
      @Schema(types = {"number", "null"}) Double value,
      @Schema(types = {"number", "null"}) Double mean,
      @Schema(types = {"number", "null"}) Double max,
      @Schema(types = {"number", "null"}) Double sum,
      @Schema(types = {"number", "null"}) Double share) {}

  /**
   * @param rows the greatest mean first
   * @param all all together; of quotients only where a series of its own is kept
   */
  @Schema(name = "Ranking")
  record Ranking(List<Row> rows, @Schema(types = {"object", "null"}) Row all) {}

  @GetMapping("/{id}/ranking")
  Ranking ranking(
      @PathVariable int id,
      @RequestParam String counter,
      @RequestParam long from,
      @RequestParam long to) {
    if (to <= from) {
      throw Problem.field("to", "The window must end after it begins.");
    }
    CounterDefinition definition =
        recipes
            .ofInstance(id)
            .counter(counter)
            .orElseThrow(() -> Problem.unknown("No recipe of it holds " + counter + "."));
    List<SeriesRow> rows =
        store.series().ofInstance(id).stream().filter(r -> r.counter().equals(counter)).toList();
    List<Summary> summaries = samples.summaries(id, rows, definition, from, to);
    Map<Integer, Shown> latest = watch.latest(id);
    List<Row> told = new ArrayList<>();
    Row whole = null;
    for (int i = 0; i < rows.size(); i++) {
      Summary summary = summaries.get(i);
      SeriesRow row = rows.get(i);
      Shown shown = latest.get(row.id());
      Row now =
          new Row(
              row.id(),
              row.labels(),
              shown == null ? null : known(shown.value()),
              known(summary.mean()),
              known(summary.max()),
              known(summary.sum()),
              null);
      if (row.labels().isEmpty()) {
        whole = now;
      } else {
        told.add(now);
      }
    }
    Row all = whole != null || definition.shape() == Shape.QUOTIENT ? whole : together(told);
    boolean shares = definition.shape() != Shape.QUOTIENT && all != null;
    return new Ranking(
        told.stream()
            .map(row -> shares ? shared(row, all) : row)
            .sorted(
                Comparator.comparingDouble(
                    (Row row) -> row.mean() == null ? Double.POSITIVE_INFINITY : -row.mean()))
            .toList(),
        all);
  }

  private static Row shared(Row row, Row all) {
    boolean known = row.mean() != null && all.mean() != null && all.mean() > 0;
    Double share = known ? row.mean() / all.mean() : null;
    return new Row(
        row.series(), row.labels(), row.value(), row.mean(), row.max(), row.sum(), share);
  }

  /** The greatest readings of several are not those of one moment: together they have none. */
  private static Row together(List<Row> rows) {
    return rows.isEmpty()
        ? null
        : new Row(
            0,
            Map.of(),
            sum(rows, Row::value),
            sum(rows, Row::mean),
            null,
            sum(rows, Row::sum),
            null);
  }

  private static Double sum(List<Row> rows, Function<Row, Double> part) {
    List<Double> known = rows.stream().map(part).filter(Objects::nonNull).toList();
    return known.isEmpty() ? null : (Double) known.stream().mapToDouble(Double::doubleValue).sum();
  }

  private static Double known(double value) {
    return Double.isFinite(value) ? (Double) value : null;
  }
}
