package jamjar.server.alerts;

import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.live.LiveStreams;
import jamjar.server.markers.MarkerService;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.security.Actor;
import jamjar.server.security.Role;
import jamjar.server.security.Scope;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.accounts.AccountRow;
import jamjar.store.alerts.AlertMapper;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.NoteRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/** Tells alerts, and takes what persons say to them. */
@Service
class AlertService {
  private static final int MOST = 2000;
  private static final Duration FOUR_WEEKS = Duration.ofDays(28);

  /** How long one who says nothing else knows of it. */
  private static final Duration KNOWN = Duration.ofHours(12);

  private final Store store;
  private final Scopes scopes;
  private final MarkerService markers;
  private final LiveStreams live;
  private final Bundling bundling;
  private final AlertViews views;
  private final Changes changes;
  private final List<OnKnown> onKnown;
  private final Clock clock;
  private List<Integer> maintained = List.of();

  AlertService(
      Store store,
      Scopes scopes,
      MarkerService markers,
      LiveStreams live,
      Bundling bundling,
      AlertViews views,
      Changes changes,
      List<OnKnown> onKnown,
      Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.markers = markers;
    this.live = live;
    this.bundling = bundling;
    this.views = views;
    this.changes = changes;
    this.onKnown = onKnown;
    this.clock = clock;
  }

  /** A comment as kept among the changes. */
  private record Said(String note) {}

  List<AlertView> open() {
    bundling.bundle();
    return views(seen(store.alerts().open()));
  }

  List<AlertView> touching(long from, long to) {
    bundling.bundle();
    Instant begin = Instant.ofEpochMilli(from);
    Instant end = Instant.ofEpochMilli(to);
    return views(seen(store.alerts().touching(begin, end, About.of(scopes.sight()), MOST)));
  }

  AlertView one(long id) {
    bundling.bundle();
    return views(List.of(row(id))).get(0);
  }

  /** Somebody knows of it: it steps back. */
  AlertView acknowledge(long id, AlertView.AcknowledgeBody body) {
    AlertRow row = row(id);
    Instant now = clock.instant();
    Instant until = body.until() == null ? now.plus(KNOWN) : Times.of("until", body.until());
    if (!until.isAfter(now)) {
      throw Problem.field("until", "That is over: until when do you know of it?");
    }
    store.inOne(
        () -> {
          store
              .alerts()
              .acknowledge(
                  id,
                  now,
                  Actor.who(),
                  body.note().strip(),
                  until,
                  Boolean.TRUE.equals(body.evenIfWorse()) ? AlertViews.WORST : row.severity());
          changes.add(What.ALERT, id, null, body);
        });
    AlertRow known = row(id);
    onKnown.forEach(one -> one.known(known));
    live.changed("alerts");
    return one(id);
  }

  AlertView comment(long id, String note) {
    row(id);
    if (note.isBlank()) {
      throw Problem.field("note", "A comment needs words.");
    }
    NoteRow said = new NoteRow(id, clock.instant(), Actor.who(), note.strip());
    store.inOne(
        () -> {
          store.alerts().addNote(said);
          changes.add(What.ALERT, id, null, new Said(said.note()));
        });
    live.changed("alerts");
    return one(id);
  }

  /** To whom it was given. */
  private record Assigned(String assigned) {}

  /** Gives it to somebody who may act, and to whom it is not hidden; to nobody by an empty name. */
  AlertView assign(long id, String to) {
    AlertRow row = row(id);
    if (!to.isEmpty() && !assignable(id).contains(to)) {
      throw Problem.field("to", "There is nobody named '" + to + "' who may act on it.");
    }
    store.inOne(
        () -> {
          store.alerts().assign(id, to);
          changes.add(What.ALERT, id, new Assigned(row.assigned()), new Assigned(to));
        });
    live.changed("alerts");
    return one(id);
  }

  /** The names of those to whom it can be given. */
  List<String> assignable(long id) {
    AlertRow row = row(id);
    List<InstanceRow> all = store.instances().all();
    return store.accounts().all().stream()
        .filter(account -> !account.off() && Role.of(account.role()).may(Role.ACT))
        .filter(account -> About.isSeen(row, new Sight(Scope.of(account.scope()), all)))
        .map(AccountRow::name)
        .toList();
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

  private List<AlertRow> seen(List<AlertRow> rows) {
    Sight sight = scopes.sight();
    return rows.stream().filter(row -> About.isSeen(row, sight)).toList();
  }

  private List<AlertView> views(List<AlertRow> rows) {
    return views.of(rows);
  }
}
