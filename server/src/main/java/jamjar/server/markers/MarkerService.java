package jamjar.server.markers;

import jamjar.core.baseline.Timeline.LeftOut;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.live.LiveStreams;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.security.Actor;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import jamjar.store.markers.OutcomeSum;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BinaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** Markers, and what they are for: maintenance mutes, incidents and maintenance teach nothing. */
@Service
public class MarkerService {
  private static final String MAINTENANCE = "maintenance";
  private static final Set<String> SPANS = Set.of("incident", MAINTENANCE);
  private static final Duration LONGEST_RECURRING = Duration.ofDays(3650);
  private static final String NEW_NORMAL = "new normal";
  private static final String HOLIDAY = "holiday";

  /** How long after a marker something is told of it, the longest last. */
  public static final List<String> SPANS_AFTER = List.of("minutes", "hour", "day", "week");

  private static final int LONGEST_HOLIDAYS = 60;

  private final Store store;
  private final Scopes scopes;
  private final LiveStreams live;
  private final Changes changes;
  private final JsonMapper json;
  private final Clock clock;

  MarkerService(
      Store store, Scopes scopes, LiveStreams live, Changes changes, JsonMapper json, Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.live = live;
    this.changes = changes;
    this.json = json;
    this.clock = clock;
  }

  /** What normal must not be learned from, of the time from … to. */
  public List<LeftOut> leftOut(InstanceRow instance, long from, long to) {
    return store.markers().touching(Instant.ofEpochMilli(from), Instant.ofEpochMilli(to)).stream()
        .filter(marker -> reaches(marker, instance))
        .flatMap(
            marker -> {
              long begins = marker.from().toEpochMilli();
              String words = marker.kind() + ": " + marker.title();
              if (marker.kind().equals(NEW_NORMAL)) {
                // all before it
                return Stream.of(new LeftOut(from, Math.min(begins, to), words));
              }
              return SPANS.contains(marker.kind())
                  ? Stream.of(
                      new LeftOut(
                          begins, marker.to() == null ? to : marker.to().toEpochMilli(), words))
                  : Stream.empty();
            })
        .toList();
  }

  /** The days that are judged as Sundays, in the zone of the instance. */
  public Set<LocalDate> holidays(InstanceRow instance) {
    ZoneId zone = ZoneId.of(instance.zone());
    Set<LocalDate> days = new HashSet<>();
    for (MarkerRow marker : store.markers().ofKind(HOLIDAY)) {
      if (reaches(marker, instance)) {
        LocalDate day = marker.from().atZone(zone).toLocalDate();
        LocalDate last = marker.to() == null ? day : marker.to().atZone(zone).toLocalDate();
        for (int n = 0; n < LONGEST_HOLIDAYS && !day.isAfter(last); n++) {
          days.add(day);
          day = day.plusDays(1);
        }
      }
    }
    return days;
  }

  /** The maintenance that is under way now, anywhere. */
  public List<MarkerRow> maintenanceNow() {
    Instant now = clock.instant();
    return store.markers().touching(now, now).stream()
        .filter(marker -> marker.kind().equals(MAINTENANCE))
        .toList();
  }

  public static boolean reaches(MarkerRow marker, InstanceRow instance) {
    return switch (marker.reach()) {
      case "all" -> true;
      case "site" -> marker.reachOf().equals(instance.site());
      case "group" -> marker.reachOf().equals(instance.groupName());
      default -> marker.reachOf().equals(Integer.toString(instance.id()));
    };
  }

  List<MarkerView> touching(Instant from, Instant to) {
    Sight sight = scopes.sight();
    List<MarkerRow> rows =
        store.markers().touching(from, to).stream()
            .filter(row -> sight.sees(row.reach(), row.reachOf()))
            .toList();
    Integer[] of = Scopes.isAll() ? null : sight.numbers().toArray(Integer[]::new);
    Map<Integer, OutcomeSum> latest =
        store.markers().sums(rows.stream().mapToInt(MarkerRow::id).toArray(), of).stream()
            .collect(
                Collectors.toMap(
                    OutcomeSum::marker,
                    sum -> sum,
                    BinaryOperator.maxBy(
                        Comparator.comparingInt(sum -> SPANS_AFTER.indexOf(sum.span())))));
    return rows.stream().map(row -> view(row, latest.get(row.id()))).toList();
  }

  /** What a marker made better or worse, instance by instance. */
  List<MarkerView.OutcomeOf> outcomes(int id) {
    one(id);
    Sight sight = scopes.sight();
    return store.markers().outcomes(id).stream()
        .filter(row -> sight.holds(row.instance()))
        .map(
            row ->
                new MarkerView.OutcomeOf(
                    row.span(),
                    row.instance(),
                    row.instanceName(),
                    row.better(),
                    row.worse(),
                    row.other(),
                    row.same(),
                    List.of(json.readValue(row.first(), MarkerView.Most[].class))))
        .toList();
  }

  MarkerView add(MarkerView.Body body) {
    requireOwn(body.reach());
    MarkerView added =
        store.inOne(
            () -> {
              int id = store.markers().add(row(0, body));
              MarkerView view = view(row(id, body));
              changes.add(What.MARKER, id, null, view);
              return view;
            });
    live.changed("markers");
    return added;
  }

  MarkerView change(int id, MarkerView.Body body) {
    MarkerRow row = row(id, body);
    MarkerView before = one(id);
    requireOwn(before.reach());
    requireOwn(body.reach());
    store.inOne(
        () -> {
          store.markers().change(row);
          store.markers().forgetOutcomes(id);
          changes.add(What.MARKER, id, before, view(row));
        });
    live.changed("markers");
    return view(row);
  }

  void remove(int id) {
    MarkerView before = one(id);
    requireOwn(before.reach());
    store.inOne(
        () -> {
          store.markers().remove(id);
          changes.add(What.MARKER, id, before, null);
        });
    live.changed("markers");
  }

  /** Whether a marker that is, or was, about an instance was set, changed or removed since then. */
  public boolean changedSince(Instant at, InstanceRow instance) {
    String[] reaches = {
      "all ",
      "site " + instance.site(),
      "group " + instance.groupName(),
      "instance " + instance.id()
    };
    return store.changes().reached(What.MARKER.word(), at, reaches);
  }

  private void requireOwn(MarkerView.Reach reach) {
    scopes.requireOwn(reach.level(), reach.of());
  }

  private MarkerView one(int id) {
    return store
        .markers()
        .byId(id)
        .map(MarkerService::view)
        .orElseThrow(() -> Problem.unknown("There is no marker " + id + "."));
  }

  private MarkerRow row(int id, MarkerView.Body body) {
    if (body.to() != null && body.to() < body.from()) {
      throw Problem.field("to", "It must end after it begins.");
    }
    if (!body.reach().level().equals("all") && body.reach().of().isBlank()) {
      throw Problem.field("reach.of", "Which " + body.reach().level() + "?");
    }
    String repeats = body.repeats() == null ? "" : body.repeats();
    requireRecurring(body, repeats);
    Instant from = Times.of("from", body.from());
    return new MarkerRow(
        id,
        body.kind(),
        body.title().strip(),
        body.note().strip(),
        from,
        body.to() == null ? null : Times.of("to", body.to()),
        body.reach().level(),
        body.reach().of(),
        clock.instant(),
        Actor.who(),
        repeats,
        zone(body.zone()),
        repeats.isEmpty() || body.until() == null ? null : Times.of("until", body.until()),
        from);
  }

  private void requireRecurring(MarkerView.Body body, String repeats) {
    if (repeats.isEmpty()) {
      return;
    }
    if (!body.kind().equals(MAINTENANCE)) {
      throw Problem.field("repeats", "Only maintenance comes again by itself.");
    }
    Duration step = Duration.ofDays(repeats.equals("day") ? 1 : 7);
    if (body.to() == null || body.to() - body.from() >= step.toMillis()) {
      throw Problem.field("to", "What comes again each " + repeats + " ends before it does.");
    }
    if (clock.millis() - body.from() > LONGEST_RECURRING.toMillis()) {
      throw Problem.field("from", "It began long ago: let it begin within the last ten years.");
    }
    if (body.until() != null && body.until() < body.from()) {
      throw Problem.field("until", "It comes once at least: that is before it begins.");
    }
  }

  private static String zone(String told) {
    try {
      return told == null || told.isBlank() ? "UTC" : ZoneId.of(told).getId();
    } catch (DateTimeException e) {
      throw Problem.field("zone", "There is no zone " + told + ".");
    }
  }

  private static MarkerView view(MarkerRow row) {
    return view(row, null);
  }

  /**
   * @param told null where nothing is told of it
   */
  private static MarkerView view(MarkerRow row, OutcomeSum told) {
    return new MarkerView(
        row.id(),
        row.kind(),
        row.title(),
        row.note(),
        row.from().toEpochMilli(),
        row.to() == null ? null : row.to().toEpochMilli(),
        new MarkerView.Reach(row.reach(), row.reachOf()),
        row.madeBy(),
        row.repeats(),
        row.zone(),
        row.endsAt() == null ? null : row.endsAt().toEpochMilli(),
        row.firstAt().toEpochMilli(),
        told == null
            ? null
            : new MarkerView.Outcome(told.span(), told.better(), told.worse(), told.other()));
  }
}
