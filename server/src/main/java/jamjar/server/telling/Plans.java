package jamjar.server.telling;

import jamjar.core.telling.Plan;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.live.LiveStreams;
import jamjar.server.problems.Problem;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.accounts.AccountRow;
import jamjar.store.markers.MarkerRow;
import jamjar.store.telling.TellingMapper.PlanRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Who is told of what, and what is watched: held in memory, so that telling waits for no database.
 */
@Component
class Plans {
  private static final Logger LOG = LoggerFactory.getLogger(Plans.class);
  private static final Duration BEFORE = Duration.ofDays(3);
  private static final Duration AHEAD = Duration.ofDays(1);
  private static final int LONGEST_HOLIDAYS = 60;

  private final Store store;
  private final Changes changes;
  private final LiveStreams live;
  private final JsonMapper json;
  private final Clock clock;
  private volatile Held held;

  /** What is held. */
  record Held(PlanBody body, Plan plan, Catalogue catalogue) {}

  Plans(Store store, Changes changes, LiveStreams live, JsonMapper json, Clock clock) {
    this.store = store;
    this.changes = changes;
    this.live = live;
    this.json = json;
    this.clock = clock;
    PlanBody first = PlanBody.atFirst(ZoneId.systemDefault().getId());
    held = new Held(first, CheckedPlan.plan(first, Map.of(), Set.of()), Catalogue.EMPTY);
  }

  Held held() {
    return held;
  }

  /** Looks again at all that is held. */
  void refresh() {
    Instant now = clock.instant();
    PlanBody body = body();
    held =
        new Held(
            body,
            plan(body),
            Catalogue.of(
                store.instances().all(),
                store.markers().touching(now.minus(BEFORE), now.plus(AHEAD))));
  }

  @Scheduled(fixedDelay = 5000)
  void look() {
    try {
      refresh();
    } catch (RuntimeException e) {
      if (!StoreAway.is(e)) {
        LOG.warn("event=plan-not-read why=\"{}\"", e.getMessage());
      }
    }
  }

  /** As it is stored. */
  PlanBody body() {
    return store
        .telling()
        .plan()
        .map(row -> read(row))
        .orElseGet(() -> PlanBody.atFirst(ZoneId.systemDefault().getId()));
  }

  private PlanBody read(PlanRow row) {
    PlanBody body = json.readValue(row.body(), PlanBody.class);
    return new PlanBody(
        row.version(),
        body.zone(),
        body.reportMinute(),
        body.people(),
        body.duties(),
        body.rules(),
        body.heartbeats());
  }

  /** As it is decided by, with the scopes of the accounts and the holidays of all. */
  Plan plan(PlanBody body) {
    Map<String, List<String>> scopes = new HashMap<>();
    for (AccountRow account : store.accounts().all()) {
      scopes.put(account.name(), Arrays.asList(account.scope()));
    }
    return CheckedPlan.plan(body, scopes, holidays(ZoneId.of(body.zone())));
  }

  private Set<LocalDate> holidays(ZoneId zone) {
    Set<LocalDate> days = new HashSet<>();
    for (MarkerRow marker : store.markers().ofKind("holiday")) {
      if (marker.reach().equals("all")) {
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

  Set<String> channels() {
    return store.telling().channels().stream().map(row -> row.name()).collect(Collectors.toSet());
  }

  /**
   * @throws Problem where somebody else changed it meanwhile, or it is not whole
   */
  PlanBody put(PlanBody body) {
    CheckedPlan.check(body, channels());
    PlanBody before = body();
    PlanBody after =
        store.inOne(
            () -> {
              if (store.telling().putPlan(body.version(), json.writeValueAsString(body)) == 0) {
                throw Problem.field(
                    "version",
                    "Somebody changed it meanwhile: look at what it is now, and change that.");
              }
              PlanBody now = body();
              changes.add(What.TELLING, "plan", before, now);
              return now;
            });
    refresh();
    live.changed("telling");
    return after;
  }
}
