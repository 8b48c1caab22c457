package jamjar.server.alerts;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.counter.CounterDefinition;
import jamjar.server.live.LiveStreams;
import jamjar.server.markers.MarkerService;
import jamjar.server.problems.Problem;
import jamjar.server.readings.LabelWords;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.alerts.AlertMapper;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.NoteRow;
import jamjar.store.alerts.TransitionRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/** Tells alerts, and takes what persons say to them. */
@Service
class AlertService {
  private static final int MOST = 2000;
  private static final Duration FOUR_WEEKS = Duration.ofDays(28);
  private static final String WHO = "local";

  private final Store store;
  private final MarkerService markers;
  private final LiveStreams live;
  private final Recipes recipes;
  private final LabelWords words;
  private final Clock clock;
  private List<Integer> maintained = List.of();

  AlertService(
      Store store,
      MarkerService markers,
      LiveStreams live,
      Recipes recipes,
      LabelWords words,
      Clock clock) {
    this.words = words;
    this.store = store;
    this.markers = markers;
    this.live = live;
    this.recipes = recipes;
    this.clock = clock;
  }

  List<AlertView> open() {
    return views(store.alerts().open());
  }

  List<AlertView> touching(long from, long to) {
    return views(
        store.alerts().touching(Instant.ofEpochMilli(from), Instant.ofEpochMilli(to), MOST));
  }

  AlertView one(long id) {
    return views(List.of(row(id))).get(0);
  }

  AlertView acknowledge(long id, String note) {
    row(id);
    store.alerts().acknowledge(id, clock.instant(), WHO, note.strip());
    live.changed("alerts");
    return one(id);
  }

  AlertView comment(long id, String note) {
    row(id);
    if (note.isBlank()) {
      throw Problem.field("note", "A comment needs words.");
    }
    store.alerts().addNote(new NoteRow(id, clock.instant(), WHO, note.strip()));
    live.changed("alerts");
    return one(id);
  }

  AlertView.Rang rang(long id) {
    AlertRow row = row(id);
    Instant now = clock.instant();
    AlertMapper.Rang rang =
        store
            .alerts()
            .rang(row.instance(), row.series(), row.condition(), now.minus(FOUR_WEEKS), now);
    return new AlertView.Rang(rang.times(), rang.seconds());
  }

  /**
   * When maintenance begins or ends by the clock, alerts are muted or told without a transition.
   */
  @Scheduled(fixedRate = 5000)
  void watchMaintenance() {
    List<Integer> now = markers.maintenanceNow().stream().map(MarkerRow::id).toList();
    if (!now.equals(maintained)) {
      maintained = now;
      live.changed("alerts");
    }
  }

  private AlertRow row(long id) {
    return store
        .alerts()
        .byId(id)
        .orElseThrow(() -> Problem.unknown("There is no alert " + id + "."));
  }

  private List<AlertView> views(List<AlertRow> rows) {
    long[] ids = rows.stream().mapToLong(AlertRow::id).toArray();
    Map<Long, List<TransitionRow>> transitions =
        store.alerts().transitions(ids).stream()
            .collect(Collectors.groupingBy(TransitionRow::alert));
    Map<Long, List<NoteRow>> notes =
        store.alerts().notes(ids).stream().collect(Collectors.groupingBy(NoteRow::alert));
    Map<Integer, InstanceRow> instances =
        store.instances().all().stream().collect(Collectors.toMap(InstanceRow::id, i -> i));
    List<MarkerRow> maintenance = markers.maintenanceNow();
    return rows.stream()
        .map(
            row ->
                view(
                    row,
                    Optional.ofNullable(instances.get(row.instance())),
                    maintenance,
                    transitions.getOrDefault(row.id(), List.of()),
                    notes.getOrDefault(row.id(), List.of())))
        .toList();
  }

  private AlertView view(
      AlertRow row,
      Optional<InstanceRow> instance,
      List<MarkerRow> maintenance,
      List<TransitionRow> transitions,
      List<NoteRow> notes) {
    Optional<CounterDefinition> counter = recipes.ofInstance(row.instance()).counter(row.counter());
    boolean muted =
        instance.isPresent()
            && row.endedAt() == null
            && maintenance.stream().anyMatch(m -> MarkerService.reaches(m, instance.get()));
    return new AlertView(
        row.id(),
        row.rule(),
        row.instance(),
        instance.map(InstanceRow::name).orElse("instance " + row.instance() + ", removed"),
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
        muted,
        row.seenAt() == null
            ? null
            : new AlertView.Note(row.seenAt().toEpochMilli(), row.seenBy(), row.seenNote()),
        transitions.stream().map(AlertService::passed).toList(),
        notes.stream()
            .map(n -> new AlertView.Note(n.at().toEpochMilli(), n.who(), n.note()))
            .toList());
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
