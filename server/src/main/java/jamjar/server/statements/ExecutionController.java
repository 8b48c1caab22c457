package jamjar.server.statements;

import jamjar.core.log.LogEntry;
import jamjar.core.session.Fingerprint;
import jamjar.core.statement.Execution;
import jamjar.core.statement.LoggedExecutions;
import jamjar.core.statement.SeenRunning;
import jamjar.core.statement.Strip;
import jamjar.server.instances.InstanceService;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.watch.Watch;
import jamjar.server.watch.Watch.Sampling;
import jamjar.store.Store;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Executions of statements one by one: when they ended, how long they ran, and what of. */
@RestController
@RequestMapping(path = "/api/instances/{id}/executions", produces = "application/json")
class ExecutionController {
  /** So many are looked at one by one. */
  private static final int MOST = 20_000;

  private static final Set<LogEntry.Kind> OF_EXECUTIONS =
      Set.of(LogEntry.Kind.FINISHED, LogEntry.Kind.CANCELLED, LogEntry.Kind.WAITED);

  private static final int TOLD = 100;

  /** Shorter ones samples see by chance. */
  private static final long SEEN_MS = 1_000;

  private static final int MOST_STEPS = 240;

  /** Of samples packed, some seconds' work. */
  private static final long MOST_BYTES = 64L << 20;

  private final Store store;
  private final Watch watch;
  private final InstanceService instances;

  ExecutionController(Store store, Watch watch, InstanceService instances) {
    this.store = store;
    this.watch = watch;
    this.instances = instances;
  }

  /**
   * What is picked of a strip.
   *
   * @param begin of the ends that are picked, epoch ms; likewise until when
   * @param lowest row
   * @param statement its fingerprint in hexadecimal; empty for all
   */
  private record Picked(long begin, long until, int lowest, int highest, String statement)
      implements Predicate<Execution> {
    @Override
    public boolean test(Execution execution) {
      int row = Strip.row(execution.leastMs());
      return execution.ended() >= begin
          && execution.ended() < until
          && row >= lowest
          && row <= highest
          && (statement.isEmpty() || statement.equals(Fingerprint.hex(execution.statement())));
    }
  }

  /**
   * @param least ms: shorter ones are left out; without, those under a second where samples tell
   *     them, and none that were logged
   * @param begin of what is picked, epoch ms; likewise its end
   * @param lowest half decade that is picked; likewise the highest
   */
  @GetMapping
  ExecutionsView executions(
      @PathVariable int id,
      @RequestParam long from,
      @RequestParam long to,
      @RequestParam(required = false) Long least,
      @RequestParam(defaultValue = "120") int steps,
      @RequestParam(required = false) Long begin,
      @RequestParam(required = false) Long end,
      @RequestParam(defaultValue = "0") int lowest,
      @RequestParam(defaultValue = "14") int highest,
      @RequestParam(defaultValue = "") String statement) {
    Times.requireWindow(from, to);
    if (steps < 1 || steps > MOST_STEPS) {
      throw Problem.field("steps", "Ask for 1 to " + MOST_STEPS + " steps.");
    }
    instances.row(id);
    Instant first = Instant.ofEpochMilli(from);
    Instant last = Instant.ofEpochMilli(to);
    if (store.samples().bytes(id, first, last) > MOST_BYTES) {
      throw Problem.field(
          "from",
          "In this window there are more samples than are looked through at once. Look at a shorter"
              + " one.");
    }
    SeenRunning running = new SeenRunning(Math.max(SEEN_MS, least == null ? 0 : least), MOST);
    Set<Long> minutes = new HashSet<>();
    store
        .samples()
        .between(
            id,
            first,
            last,
            sample -> {
              running.add(sample);
              minutes.add(sample.at().toEpochMilli() / LogOfWindow.MINUTE);
            });
    List<Execution> seen = running.all();
    LogOfWindow log = LogOfWindow.read(store, id, first, last, OF_EXECUTIONS);
    // where it was read for most of the time in which the engine was watched
    boolean ofLog = log.minutes() > 0 && 2 * log.minutes() >= minutes.size();
    List<Execution> all =
        ofLog ? LoggedExecutions.of(log.entries(), seen, least == null ? 0 : least) : seen;
    Picked picked =
        new Picked(
            begin == null ? from : begin, end == null ? to + 1 : end, lowest, highest, statement);
    List<Execution> found = all.stream().filter(picked).toList();
    List<Execution> told = found.subList(0, Math.min(TOLD, found.size()));
    Map<Long, String> texts =
        store
            .statements()
            .texts(id, told.stream().map(Execution::statement).collect(Collectors.toSet()));
    long stepMs = (to - from + steps - 1) / steps;
    return new ExecutionsView(
        ofLog ? "log" : "samples",
        ofLog ? "" : unread(id, log),
        Math.max(ofLog ? log.thresholdMs() : SEEN_MS, least == null ? 0 : least),
        1000L * watch.sampling(id).map(Sampling::everyS).orElse(0),
        stepMs,
        cells(Strip.of(all, from, stepMs, steps)),
        found.size(),
        told.stream().map(one -> one(one, texts)).toList(),
        ofLog ? log.beyond() : running.beyond());
  }

  private String unread(int id, LogOfWindow log) {
    if (log.reads() > 0 && log.thresholdMs() < 0) {
      return "no durations were logged then. Change it there: alter system set"
          + " log_min_duration_statement = '250ms'; select pg_reload_conf();";
    }
    String now = watch.sampling(id).map(Sampling::unreadLog).orElse("");
    return now.isEmpty() ? "its log was not read then" : now;
  }

  private static List<ExecutionsView.Cell> cells(Strip strip) {
    List<ExecutionsView.Cell> cells = new ArrayList<>();
    for (int row = 0; row < Strip.ROWS; row++) {
      for (int step = 0; step < strip.counts()[row].length; step++) {
        int count = strip.counts()[row][step];
        if (count > 0) {
          cells.add(new ExecutionsView.Cell(strip.from() + step * strip.stepMs(), row, count));
        }
      }
    }
    return cells;
  }

  private static ExecutionsView.One one(Execution one, Map<Long, String> texts) {
    return new ExecutionsView.One(
        one.started(),
        one.ended(),
        one.leastMs(),
        one.mostMs() < 0 ? null : (Long) one.mostMs(),
        one.ending().words(),
        one.who().pid(),
        one.who().user(),
        one.who().program(),
        one.who().database(),
        Fingerprint.hex(one.statement()),
        texts.getOrDefault(one.statement(), ""),
        one.waitedFor(),
        one.blocker());
  }
}
