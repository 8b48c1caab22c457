package jamjar.server.limits;

import jamjar.core.counter.Shape;
import jamjar.core.limit.Condition;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.live.LiveStreams;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Service;

/** Sets limits. What is set is in force from the next judging on. */
@Service
class LimitService {
  private static final int MINUTES = 24 * 60;
  private static final Duration NOISE = Duration.ofDays(28);

  private final Store store;
  private final Scopes scopes;
  private final LiveJudge judge;
  private final LiveStreams live;
  private final Recipes recipes;
  private final Changes changes;
  private final Clock clock;

  LimitService(
      Store store,
      Scopes scopes,
      LiveJudge judge,
      LiveStreams live,
      Recipes recipes,
      Changes changes,
      Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.judge = judge;
    this.live = live;
    this.recipes = recipes;
    this.changes = changes;
    this.clock = clock;
  }

  List<LimitView> all() {
    Sight sight = scopes.sight();
    return store.rules().all().stream()
        .map(Rules::view)
        .filter(limit -> sight.sees(limit.scope().level(), limit.scope().of()))
        .toList();
  }

  /** What each told in the last four weeks, the noisiest first. */
  NoiseView noise() {
    Instant now = clock.instant();
    Sight sight = scopes.sight();
    return new NoiseView(
        store.alerts().noise(now.minus(NOISE), now).stream()
            .filter(rang -> sight.holds(rang.instance()))
            .map(
                rang ->
                    new NoiseView.Rang(
                        rang.rule(),
                        rang.instance(),
                        rang.series(),
                        rang.counter(),
                        rang.labels(),
                        rang.condition().toLowerCase(Locale.ROOT),
                        rang.alerts(),
                        rang.atNight(),
                        1000 * rang.seconds(),
                        rang.acknowledged(),
                        1000 * rang.untilAcknowledged()))
            .toList(),
        store.rules().counters().stream()
            .flatMap(counter -> recipes.counter(counter).stream())
            .map(counter -> new NoiseView.Counter(counter.key(), counter.title(), counter.unit()))
            .toList());
  }

  List<LimitInForce> inForce(int instance) {
    return judge.inForce(instance).entrySet().stream()
        .flatMap(e -> e.getValue().stream().map(f -> LimitInForce.of(e.getKey(), f)))
        .toList();
  }

  LimitView add(LimitView.Body body) {
    requireOwn(body.scope());
    requireSound(body);
    boolean twice =
        store.rules().ofCounter(body.counter()).stream()
            .anyMatch(
                row ->
                    row.labels().equals(body.labels())
                        && row.condition().equalsIgnoreCase(body.condition())
                        && row.reach().equalsIgnoreCase(body.scope().level())
                        && row.reachOf().equals(body.scope().of()));
    if (twice) {
      throw Problem.field("scope", "There is such a limit already: change that one.");
    }
    Instant at = clock.instant();
    LimitView added =
        store.inOne(
            () -> {
              LimitView view = one(store.rules().add(Rules.row(0, body, at)));
              changes.add(at, What.LIMIT, view.id(), null, view);
              return view;
            });
    changed(at);
    return added;
  }

  LimitView change(int id, LimitView.Body body) {
    return change(List.of(new LimitView.Change(id, body))).get(0);
  }

  /** Changes all of them, or none. */
  List<LimitView> change(List<LimitView.Change> all) {
    all.forEach(one -> requireOwn(one.limit().scope()));
    all.forEach(one -> requireSound(one, all.size() > 1));
    Instant at = clock.instant();
    List<LimitView> after =
        store.inOne(() -> all.stream().map(one -> changed(one.id(), one.limit(), at)).toList());
    changed(at);
    return after;
  }

  private LimitView changed(int id, LimitView.Body body, Instant at) {
    LimitView before = one(id);
    requireOwn(before.scope());
    store.rules().change(Rules.row(id, body, at));
    LimitView after = one(id);
    changes.add(at, What.LIMIT, id, before, after);
    return after;
  }

  private void requireSound(LimitView.Change change, boolean many) {
    try {
      requireSound(change.limit());
    } catch (Problem problem) {
      if (!many) {
        throw problem;
      }
      LimitView.Body limit = change.limit();
      throw Problem.field(
          problem.field(),
          "%s %s of %s %s: %s"
              .formatted(
                  limit.counter(),
                  limit.condition(),
                  limit.scope().level(),
                  limit.scope().of(),
                  problem.getMessage()));
    }
  }

  /** A shipped limit comes back as it was shipped; any other is gone. */
  void remove(int id) {
    LimitView limit = one(id);
    requireOwn(limit.scope());
    Instant at = clock.instant();
    store.inOne(
        () -> {
          store.rules().remove(id);
          shipAgain(limit);
          changes.add(at, What.LIMIT, id, limit, null);
        });
    changed(at);
  }

  private void shipAgain(LimitView limit) {
    recipes.shippedLimits().stream()
        .filter(
            rule ->
                limit.scope().level().equals("kind")
                    && rule.scope().of().equals(limit.scope().of())
                    && rule.counter().equals(limit.counter())
                    && rule.condition().name().equalsIgnoreCase(limit.condition())
                    && rule.labels().equals(limit.labels()))
        .forEach(rule -> store.rules().ship(Rules.shipped(rule, clock.instant())));
  }

  private void requireOwn(LimitView.Reach reach) {
    scopes.requireOwn(reach.level(), reach.of());
  }

  private LimitView one(int id) {
    return store
        .rules()
        .byId(id)
        .map(Rules::view)
        .filter(limit -> scopes.sight().sees(limit.scope().level(), limit.scope().of()))
        .orElseThrow(() -> Problem.unknown("There is no limit " + id + "."));
  }

  private void changed(Instant at) {
    judge.rulesChanged(at);
    live.changed("limits");
  }

  /**
   * @throws Problem where it could not be saved
   */
  void requireSound(LimitView.Body body) {
    Condition condition = Condition.valueOf(body.condition().toUpperCase(Locale.ROOT));
    boolean whole = condition.ofInstance();
    if (whole != body.counter().isEmpty()) {
      throw Problem.field(
          "counter",
          "Silent and unreachable are of the instance; everything else is of a counter.");
    }
    if (!whole && recipes.counter(body.counter()).isEmpty()) {
      throw Problem.field("counter", "No recipe holds the counter " + body.counter() + ".");
    }
    requireAgainst(body);
    requireHold(body.hold(), "hold");
    requireHold(body.criticalHold(), "criticalHold");
    boolean below = condition.downwards();
    if (body.warning() != null
        && body.critical() != null
        && (below ? body.critical() > body.warning() : body.critical() < body.warning())) {
      throw Problem.field(
          "critical", "Critical must be beyond warning, or it would be passed first.");
    }
    Double lowest = body.warning() != null ? body.warning() : body.critical();
    Double clear = body.clear().number();
    if (lowest != null && clear != null && (below ? clear < lowest : clear > lowest)) {
      throw Problem.field("clear.number", "Clear must be on the good side of the number.");
    }
    if (Boolean.FALSE.equals(body.on()) && body.offReason().isBlank()) {
      throw Problem.field("offReason", "Say why it is switched off.");
    }
  }

  /** Nearer limits may inherit it; the widest says it. */
  private void requireAgainst(LimitView.Body body) {
    Double against = body.against();
    switch (Condition.valueOf(body.condition().toUpperCase(Locale.ROOT))) {
      case OVERDUE -> {
        boolean counts =
            recipes.counter(body.counter()).filter(c -> c.shape() == Shape.QUOTIENT).isEmpty();
        if (!counts) {
          throw Problem.field("counter", "A quotient cannot be what happens: use its numerator.");
        }
        if (against != null && (against < 0 || against >= MINUTES || against % 1 != 0)) {
          throw Problem.field("against", "It is due at a minute of the day, 0 to 1439.");
        }
      }
      case REACHES -> {
        if (against != null && !Double.isFinite(against)) {
          throw Problem.field("against", "What will be reached is a number.");
        }
      }
      default -> {
        if (against != null) {
          throw Problem.field("against", "Only did not happen and will reach need it.");
        }
      }
    }
  }

  private static void requireHold(LimitView.Hold hold, String field) {
    if (hold != null && hold.m() > hold.n()) {
      throw Problem.field(field, "A hold is m of the last n judgings: m cannot be more than n.");
    }
  }
}
