package jamjar.server.alerts;

import static jamjar.server.numbers.Numbers.known;
import static java.util.stream.Collectors.groupingBy;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.limit.Condition;
import jamjar.server.heads.HeadCounts;
import jamjar.server.heads.Heads;
import jamjar.server.markers.MarkerService;
import jamjar.server.readings.LabelWords;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.NoteRow;
import jamjar.store.alerts.TransitionRow;
import jamjar.store.facts.FactRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Alerts as told: with their words, and with what keeps them quiet. */
@Component
class AlertViews {
  static final String WORST = "critical";

  /** A silence may be told before that of its site is, and end after it. */
  private static final Duration AROUND = Duration.ofMinutes(2);

  private final Store store;
  private final MarkerService markers;
  private final Recipes recipes;
  private final LabelWords words;
  private final HeadCounts heads;
  private final Clock clock;

  AlertViews(
      Store store,
      MarkerService markers,
      Recipes recipes,
      LabelWords words,
      HeadCounts heads,
      Clock clock) {
    this.store = store;
    this.markers = markers;
    this.recipes = recipes;
    this.words = words;
    this.heads = heads;
    this.clock = clock;
  }

  List<AlertView> of(List<AlertRow> rows) {
    return rows.isEmpty() ? List.of() : new Telling(rows).views();
  }

  /** What is looked up once for all that are told together. */
  private final class Telling {
    private final List<AlertRow> rows;
    private final Map<Long, List<TransitionRow>> transitions;
    private final Map<Long, List<NoteRow>> notes;
    private final Map<Integer, InstanceRow> instances;
    private final List<MarkerRow> maintenance = markers.maintenanceNow();
    private final Map<String, List<FactRow>> facts = new HashMap<>();
    private final Map<String, Boolean> unreachable = new HashMap<>();
    private final List<AlertRow> ofSites;

    Telling(List<AlertRow> rows) {
      this.rows = rows;
      long[] ids = rows.stream().mapToLong(AlertRow::id).toArray();
      transitions =
          store.alerts().transitions(ids).stream().collect(groupingBy(TransitionRow::alert));
      notes = store.alerts().notes(ids).stream().collect(groupingBy(NoteRow::alert));
      instances =
          store.instances().all().stream().collect(Collectors.toMap(InstanceRow::id, i -> i));
      Instant first = rows.stream().map(AlertRow::since).min(Instant::compareTo).orElseThrow();
      ofSites =
          rows.stream().anyMatch(Telling::isSilence)
              ? store.alerts().ofCounter(Heads.SILENT_SHARE, first.minus(AROUND), clock.instant())
              : List.of();
    }

    List<AlertView> views() {
      return rows.stream().map(this::view).toList();
    }

    private static boolean isSilence(AlertRow row) {
      return row.condition().equals(Condition.SILENT.name());
    }

    private AlertView view(AlertRow row) {
      InstanceRow instance = instances.get(row.instance());
      About about = About.of(row, instance);
      Optional<CounterDefinition> counter =
          recipes.ofInstance(row.instance()).counter(row.counter());
      return new AlertView(
          row.id(),
          row.bundle() == null ? row.id() : row.bundle(),
          row.rule(),
          row.instance(),
          about.ofInstance() || instance == null ? about.subject() : instance.name(),
          about.subject(),
          standing(row, about),
          row.series(),
          row.counter(),
          counter.map(CounterDefinition::title).orElse(row.counter()),
          row.labels(),
          words.of(row.instance(), row.labels()),
          counter.map(CounterDefinition::unit).orElse(""),
          row.condition().toLowerCase(Locale.ROOT),
          row.state(),
          row.severity(),
          row.since().toEpochMilli(),
          row.endedAt() == null ? null : row.endedAt().toEpochMilli(),
          known(row.value()),
          known(row.normalLow()),
          known(row.normalHigh()),
          known(row.number()),
          known(row.worst()),
          row.flapping(),
          instance == null ? "" : quiet(row, instance),
          row.afterwards(),
          stepsBack(row),
          row.assigned(),
          acknowledged(row),
          transitions.getOrDefault(row.id(), List.of()).stream().map(AlertViews::passed).toList(),
          notes.getOrDefault(row.id(), List.of()).stream()
              .map(n -> new AlertView.Note(n.at().toEpochMilli(), n.who(), n.note()))
              .toList());
    }

    /** As it stood last while it was open. */
    private String standing(AlertRow row, About about) {
      if (about.ofInstance()) {
        return "";
      }
      List<FactRow> told =
          facts.computeIfAbsent(
              Heads.fact(row.labels()), name -> store.facts().of(row.instance(), name));
      Instant last = row.endedAt() == null ? clock.instant() : row.endedAt();
      return told.stream()
          .filter(fact -> !fact.from().isAfter(last))
          .filter(fact -> fact.to() == null || fact.to().isAfter(row.since()))
          .reduce((before, after) -> after)
          .map(FactRow::value)
          .orElse("");
    }

    private String quiet(AlertRow row, InstanceRow instance) {
      if (row.endedAt() == null
          && maintenance.stream().anyMatch(m -> MarkerService.reaches(m, instance))) {
        return "maintenance";
      }
      if (isSilence(row) && !instance.site().isEmpty() && heldBack(row, instance.site())) {
        return instance.site() + " is unreachable from here";
      }
      return "";
    }

    /** Its site is unreachable: that is told, and it is no news. */
    private boolean heldBack(AlertRow row, String site) {
      boolean told =
          ofSites.stream()
              .filter(of -> site.equals(of.labels().get(Heads.SITE)))
              .filter(of -> !row.since().isBefore(of.since().minus(AROUND)))
              .anyMatch(
                  of ->
                      of.endedAt() == null
                          || row.endedAt() != null
                              && !row.endedAt().isAfter(of.endedAt().plus(AROUND)));
      return told || row.endedAt() == null && unreachable.computeIfAbsent(site, heads::unreachable);
    }

    private boolean stepsBack(AlertRow row) {
      return row.seenAt() != null
          && row.endedAt() == null
          && clock.instant().isBefore(row.seenUntil())
          && (row.seenSeverity().equals(WORST) || !row.severity().equals(WORST));
    }
  }

  private static AlertView.Acknowledged acknowledged(AlertRow row) {
    return row.seenAt() == null
        ? null
        : new AlertView.Acknowledged(
            row.seenAt().toEpochMilli(),
            row.seenBy(),
            row.seenNote(),
            row.seenUntil().toEpochMilli(),
            row.seenSeverity().equals(WORST));
  }

  private static AlertView.Passed passed(TransitionRow row) {
    return new AlertView.Passed(
        row.at().toEpochMilli(),
        row.arrived().toEpochMilli(),
        row.fromState(),
        row.toState(),
        known(row.value()),
        known(row.normalLow()),
        known(row.normal()),
        known(row.normalHigh()),
        known(row.number()),
        known(row.distance()));
  }
}
