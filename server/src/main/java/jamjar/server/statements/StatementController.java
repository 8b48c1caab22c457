package jamjar.server.statements;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.session.ActiveTime;
import jamjar.core.session.Fingerprint;
import jamjar.core.statement.Change;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.core.statement.StatementPast;
import jamjar.server.instances.InstanceService;
import jamjar.server.problems.Fingerprints;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.watch.Followed;
import jamjar.server.watch.Watch;
import jamjar.store.Store;
import jamjar.store.statements.StatementStore;
import java.time.Instant;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What statements did in a window, and against another one. */
@RestController
@RequestMapping(path = "/api/instances/{id}/statements", produces = "application/json")
class StatementController {
  private static final int MOST_ROWS = 200;
  private static final int MOST_STEPS = 500;
  private static final long MINUTE = 60_000;
  private static final long HOUR = 60 * MINUTE;

  /** From so many samples on, packed, what is sampled is not held against what is booked. */
  private static final long MOST_SAMPLE_BYTES = 16L << 20;

  private final Store store;
  private final Watch watch;
  private final Followed followed;
  private final InstanceService instances;

  StatementController(Store store, Watch watch, Followed followed, InstanceService instances) {
    this.store = store;
    this.watch = watch;
    this.followed = followed;
    this.instances = instances;
  }

  /**
   * @param vs begin of a window of the same length to compare with, epoch ms
   * @param by statement, user or database
   * @param order time, mean, calls, rows, rows_per_call, reads, blocks_per_call or temporary
   */
  @GetMapping
  StatementsView statements(
      @PathVariable int id,
      @RequestParam long from,
      @RequestParam long to,
      @RequestParam(required = false) Long vs,
      @RequestParam(defaultValue = "statement") String by,
      @RequestParam(defaultValue = "time") String order) {
    Times.requireWindow(from, to);
    Ranked.By what = Ranked.of(Ranked.By.class, "by", by);
    Ranked.Order in = Ranked.of(Ranked.Order.class, "order", order);
    instances.row(id);
    Counted now = counted(id, from, to);
    if (now.elapsedMs() == 0) {
      return StatementsView.nothing(why(id));
    }
    Optional<Counted> before = Optional.ofNullable(vs).map(v -> counted(id, v, v + (to - from)));
    return view(id, what, in, now, before, from, to, vs);
  }

  private Counted counted(int id, long from, long to) {
    Times.requireWindow(from, to);
    Counted.Sum sum = new Counted.Sum();
    store.statements().sums(id, after(from), after(to), sum::add);
    return sum.until(Instant.ofEpochMilli(to));
  }

  /** What ends at an edge belongs before it. */
  private static Instant after(long ms) {
    return Instant.ofEpochMilli(ms + 1);
  }

  private StatementsView view(
      int id,
      Ranked.By by,
      Ranked.Order order,
      Counted now,
      Optional<Counted> before,
      long from,
      long to,
      Long vs) {
    Map<Ranked.Subject, Ranked.Row> rows = Ranked.rows(now, by);
    Map<Ranked.Subject, Ranked.Row> then =
        before.map(counted -> Ranked.rows(counted, by)).orElse(Map.of());
    // what is gone is a change too
    then.keySet().forEach(subject -> rows.computeIfAbsent(subject, Ranked.Row::new));
    Ranked.Row unnamed = rows.remove(by.unnamed(true));
    rows.remove(by.unnamed(false));
    List<Ranked.Row> ordered = Ranked.ordered(rows, order);
    List<Ranked.Row> shown = ordered.subList(0, Math.min(MOST_ROWS, ordered.size()));
    StatementCounts all = now.top();
    Map<Long, StatementStore.Text> texts = by == Ranked.By.STATEMENT ? texts(id, shown) : Map.of();
    double seconds = now.elapsedMs() / 1000.0;
    return new StatementsView(
        "",
        now.elapsedMs(),
        new StatementsView.Versus(
            vs == null ? 0 : vs,
            vs == null ? 0 : vs + (to - from),
            before.map(Counted::elapsedMs).orElse(0L)),
        now.evicted(),
        all.calls() / seconds,
        all.timeUs() / 1e6 / seconds,
        shown.stream()
            .map(
                row ->
                    row(
                        row,
                        by,
                        texts,
                        all,
                        now.elapsedMs(),
                        before.filter(b -> b.elapsedMs() > 0).map(b -> change(row, then, b, now))))
            .toList(),
        ordered.size() - shown.size(),
        ordered.stream()
            .skip(shown.size())
            .filter(row -> row.subject.top())
            .mapToDouble(row -> share(row.counts, all))
            .sum(),
        unnamed == null ? 0 : share(unnamed.counts, all),
        active(id, from, to, all.timeUs() / 1e6 / seconds));
  }

  private static double share(StatementCounts counts, StatementCounts all) {
    return all.timeUs() == 0 ? 0 : (double) counts.timeUs() / all.timeUs();
  }

  private static StatementsView.Changed change(
      Ranked.Row row, Map<Ranked.Subject, Ranked.Row> then, Counted before, Counted now) {
    StatementCounts was =
        Optional.ofNullable(then.get(row.subject)).map(r -> r.counts).orElse(StatementCounts.NONE);
    Change change = Change.of(was, before.elapsedMs(), row.counts, now.elapsedMs());
    return new StatementsView.Changed(
        change.kind().word(),
        change.total(),
        change.moreOften(),
        change.slower(),
        was.calls() * 1000.0 / before.elapsedMs(),
        known(Ranked.perCall(was.timeUs() / 1e6, was)));
  }

  private static StatementsView.Row row(
      Ranked.Row row,
      Ranked.By by,
      Map<Long, StatementStore.Text> texts,
      StatementCounts all,
      long elapsedMs,
      Optional<StatementsView.Changed> change) {
    double seconds = elapsedMs / 1000.0;
    StatementCounts counts = row.counts;
    boolean statement = by == Ranked.By.STATEMENT;
    Optional<StatementStore.Text> text =
        statement
            ? Optional.ofNullable(texts.get(Fingerprint.of(row.subject.name())))
            : Optional.empty();
    return new StatementsView.Row(
        statement ? row.subject.name() : "",
        statement ? text.map(StatementStore.Text::text).orElse("") : row.subject.name(),
        text.map(t -> t.firstSeen().toEpochMilli()).orElse(0L),
        row.subject.top(),
        List.copyOf(row.users),
        List.copyOf(row.databases),
        counts.calls(),
        counts.calls() / seconds,
        counts.timeUs() / 1e6 / seconds,
        share(counts, all),
        known(Ranked.perCall(counts.timeUs() / 1e6, counts)),
        counts.rows() / seconds,
        known(Ranked.perCall(counts.rows(), counts)),
        counts.read() / seconds,
        known(Ranked.perCall(counts.hit() + counts.read(), counts)),
        counts.temporary() / seconds,
        change.orElse(new StatementsView.Changed("none", 0, 0, 0, 0, null)));
  }

  private Map<Long, StatementStore.Text> texts(int id, List<Ranked.Row> rows) {
    return store
        .statements()
        .seen(id, rows.stream().map(row -> Fingerprint.of(row.subject.name())).toList());
  }

  private List<StatementsView.Active> active(int id, long from, long to, double booked) {
    Instant begin = Instant.ofEpochMilli(from);
    Instant end = Instant.ofEpochMilli(to);
    if (store.samples().bytes(id, begin, end) > MOST_SAMPLE_BYTES) {
      return List.of();
    }
    ActiveTime time = new ActiveTime();
    store.samples().between(id, begin, end, time::add);
    ActiveTime.Told told = time.told(booked);
    return Double.isNaN(told.sampled())
        ? List.of()
        : List.of(
            new StatementsView.Active(
                told.sampled(), told.booked(), told.running(), told.notCovered()));
  }

  /**
   * @param fingerprint in hexadecimal
   * @param steps how many at most, up to 500: none is shorter than a minute
   */
  @GetMapping("/{fingerprint}")
  StatementView statement(
      @PathVariable int id,
      @PathVariable String fingerprint,
      @RequestParam long from,
      @RequestParam long to,
      @RequestParam(defaultValue = "240") int steps) {
    Times.requireWindow(from, to);
    if (steps < 1 || steps > MOST_STEPS) {
      throw Problem.field("steps", "Ask for 1 to " + MOST_STEPS + " steps.");
    }
    instances.row(id);
    long print = Fingerprints.of("fingerprint", fingerprint);
    StatementStore.Text text = store.statements().seen(id, List.of(print)).get(print);
    if (text == null) {
      throw Problem.unknown("No statement " + fingerprint + " is known of this instance.");
    }
    long least = Math.max(MINUTE, (to - from + steps - 1) / steps);
    boolean hours = least > 5 * MINUTE;
    // whole minutes, and whole hours where these are added up already
    long unit = hours ? HOUR : MINUTE;
    long stepMs = (least + unit - 1) / unit * unit;
    long begin = Math.floorDiv(from, stepMs) * stepMs;
    int count = (int) ((to - begin + stepMs - 1) / stepMs);
    Predicate<StatementKey> of = key -> key.fingerprint() == print;
    StatementPast past = new StatementPast(begin, stepMs, count, of);
    Counted.Sum sum = new Counted.Sum();
    Instant end = after(begin + count * stepMs);
    Consumer<Counted> taking =
        counted -> {
          past.add(counted);
          sum.add(counted);
        };
    if (hours) {
      store.statements().sums(id, after(begin), end, taking);
    } else {
      store.statements().between(id, after(begin), end, taking);
    }
    return new StatementView(
        fingerprint,
        text.text(),
        text.firstSeen().toEpochMilli(),
        stepMs,
        Arrays.stream(past.at()).boxed().toList(),
        Arrays.stream(past.calls()).mapToObj(v -> known(v)).toList(),
        Arrays.stream(past.mean()).mapToObj(v -> known(v)).toList(),
        callers(sum.until(end), of));
  }

  private static List<StatementView.Caller> callers(Counted all, Predicate<StatementKey> of) {
    return all.statements().entrySet().stream()
        .filter(entry -> of.test(entry.getKey()))
        .sorted(Comparator.comparingLong(entry -> -entry.getValue().timeUs()))
        .map(
            entry ->
                new StatementView.Caller(
                    entry.getKey().user(),
                    entry.getKey().database(),
                    entry.getKey().top(),
                    entry.getValue().calls(),
                    entry.getValue().timeUs() / 1000.0 / all.elapsedMs(),
                    known(Ranked.perCall(entry.getValue().timeUs() / 1e6, entry.getValue()))))
        .toList();
  }

  /**
   * Chooses anew which statements are followed as series of their own, and has what was counted of
   * them before brought in: else that is done once a day.
   */
  @PostMapping("/follow")
  @ResponseStatus(HttpStatus.ACCEPTED)
  void follow(@PathVariable int id) {
    instances.row(id);
    followed.chooseSoon(id);
  }

  private String why(int id) {
    return watch.sampling(id).isEmpty()
        ? "statements are counted of PostgreSQL engines that are not paused"
        : "nothing was counted in this window: it was not read then, or pg_stat_statements is not"
            + " loaded or not created there; the checks of the instance say which";
  }
}
