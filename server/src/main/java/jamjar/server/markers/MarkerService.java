package jamjar.server.markers;

import jamjar.core.baseline.Timeline.LeftOut;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.live.LiveStreams;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Service;

/** Markers, and what they are for: maintenance mutes, incidents and maintenance teach nothing. */
@Service
public class MarkerService {
  private static final Set<String> SPANS = Set.of("incident", "maintenance");

  private final Store store;
  private final LiveStreams live;
  private final Changes changes;
  private final Clock clock;

  MarkerService(Store store, LiveStreams live, Changes changes, Clock clock) {
    this.store = store;
    this.live = live;
    this.changes = changes;
    this.clock = clock;
  }

  /** What normal must not be learned from. */
  public List<LeftOut> leftOut(InstanceRow instance, long from, long to) {
    return store.markers().touching(Instant.ofEpochMilli(from), Instant.ofEpochMilli(to)).stream()
        .filter(marker -> SPANS.contains(marker.kind()) && reaches(marker, instance))
        .map(
            marker ->
                new LeftOut(
                    marker.from().toEpochMilli(),
                    marker.to() == null ? to : marker.to().toEpochMilli()))
        .toList();
  }

  /** The maintenance that is under way now, anywhere. */
  public List<MarkerRow> maintenanceNow() {
    Instant now = clock.instant();
    return store.markers().touching(now, now).stream()
        .filter(marker -> marker.kind().equals("maintenance"))
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
    return store.markers().touching(from, to).stream().map(MarkerService::view).toList();
  }

  MarkerView add(MarkerView.Body body) {
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
    store.inOne(
        () -> {
          store.markers().change(row);
          changes.add(What.MARKER, id, before, view(row));
        });
    live.changed("markers");
    return view(row);
  }

  void remove(int id) {
    MarkerView before = one(id);
    store.inOne(
        () -> {
          store.markers().remove(id);
          changes.add(What.MARKER, id, before, null);
        });
    live.changed("markers");
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
    return new MarkerRow(
        id,
        body.kind(),
        body.title().strip(),
        body.note().strip(),
        Times.of("from", body.from()),
        body.to() == null ? null : Times.of("to", body.to()),
        body.reach().level(),
        body.reach().of(),
        clock.instant(),
        Changes.WHO);
  }

  private static MarkerView view(MarkerRow row) {
    return new MarkerView(
        row.id(),
        row.kind(),
        row.title(),
        row.note(),
        row.from().toEpochMilli(),
        row.to() == null ? null : row.to().toEpochMilli(),
        new MarkerView.Reach(row.reach(), row.reachOf()),
        row.madeBy());
  }
}
