package jamjar.server.series;

import static jamjar.server.numbers.Numbers.known;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.core.chart.Ranking;
import jamjar.core.chart.Summary;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.reading.Shown;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.readings.LabelWords;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.recipes.Recipes;
import jamjar.server.watch.Watch;
import jamjar.store.Store;
import jamjar.store.series.SeriesRow;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
  private final LabelWords words;

  RankingController(
      Store store, Watch watch, Recipes recipes, SeriesSamples samples, LabelWords words) {
    this.words = words;
    this.store = store;
    this.watch = watch;
    this.recipes = recipes;
    this.samples = samples;
  }

  /**
   * A label over the window; what is null is not known, or can't be told of this counter.
   *
   * @param about what its labels stand for where they do not say it themselves; else empty
   * @param series its number; 0 for all together where no series of its own is kept
   * @param value the latest
   * @param sum of a total what it grew by within the window, without "per second"
   * @param share of all together, from 0 to 1; of quotients none
   */
  @Schema(name = "RankedRow")
  record Row(
      int series,
      Map<String, String> labels,
      String about,
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
  record Told(List<Row> rows, @Schema(types = {"object", "null"}) Row all) {}

  @GetMapping("/{id}/ranking")
  Told ranking(
      @PathVariable int id,
      @RequestParam String counter,
      @RequestParam long from,
      @RequestParam long to) {
    Times.requireWindow(from, to);
    CounterDefinition definition =
        recipes
            .ofInstance(id)
            .counter(counter)
            .orElseThrow(() -> Problem.unknown("No recipe of it holds " + counter + "."));
    List<SeriesRow> series =
        store.series().shown(id, SeriesController.MOST_RETIRED).stream()
            .filter(r -> r.counter().equals(counter))
            .toList();
    List<Summary> summaries = samples.summaries(id, series, definition, from, to);
    Map<Integer, Shown> latest = watch.latest(id);
    List<Ranking.Row<SeriesRow>> labelled = new ArrayList<>();
    Optional<Ranking.Row<SeriesRow>> whole = Optional.empty();
    for (int i = 0; i < series.size(); i++) {
      SeriesRow one = series.get(i);
      Shown shown = latest.get(one.id());
      Ranking.Row<SeriesRow> row =
          Ranking.Row.of(one, shown == null ? Double.NaN : shown.value(), summaries.get(i));
      if (one.labels().isEmpty()) {
        whole = Optional.of(row);
      } else {
        labelled.add(row);
      }
    }
    Ranking<SeriesRow> ranking = Ranking.of(labelled, whole, definition.shape() != Shape.QUOTIENT);
    return new Told(
        ranking.rows().stream().map(row -> told(id, row)).toList(),
        ranking.all().map(row -> told(id, row)).orElse(null));
  }

  private Row told(int id, Ranking.Row<SeriesRow> row) {
    SeriesRow of = row.of();
    return new Row(
        of == null ? 0 : of.id(),
        of == null ? Map.of() : of.labels(),
        of == null ? "" : words.of(id, of.labels()),
        known(row.value()),
        known(row.summary().mean()),
        known(row.summary().max()),
        known(row.summary().sum()),
        known(row.share()));
  }
}
