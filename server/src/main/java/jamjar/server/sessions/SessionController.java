package jamjar.server.sessions;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.session.Busy;
import jamjar.core.session.Fingerprint;
import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import jamjar.server.instances.InstanceService;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.watch.Watch;
import jamjar.server.watch.Watch.Sampling;
import jamjar.store.Store;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.function.ToLongFunction;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Sessions, and who waits for whom, at any moment that is kept. */
@RestController
@RequestMapping(path = "/api/instances/{id}", produces = "application/json")
class SessionController {
  private static final int MOST_STEPS = 500;
  private static final int PARTS = 8;

  /** Of samples packed, some ten seconds' work: a month of a hundred busy sessions each 5 s. */
  private static final long MOST_BYTES = 128L << 20;

  private static final long[] WAITING_MS = {2_000, 15_000, 45_000, 180_000};
  private static final long[] RUNNING_MS = {5_000, 30_000, 120_000, 600_000};

  /** Of fewer sessions one address is no sign of a pooler. */
  private static final int POOLED = 10;

  /** A sample of so many intervals ago still tells of a moment. */
  private static final int LATELY = 3;

  private final Store store;
  private final Watch watch;
  private final InstanceService instances;

  SessionController(Store store, Watch watch, InstanceService instances) {
    this.store = store;
    this.watch = watch;
    this.instances = instances;
  }

  /**
   * What is known of a moment: a sample, or why there is none.
   *
   * @param before the sample before it, looked for when it is wanted
   */
  private record Found(
      int every, Optional<Sample> sample, Supplier<Optional<Sample>> before, String why) {}

  /**
   * @param at epoch ms; the latest sample without
   */
  @GetMapping("/sessions")
  SessionsView sessions(@PathVariable int id, @RequestParam(required = false) Long at) {
    Found found = find(id, at);
    if (found.sample().isEmpty()) {
      return SessionsView.nothing(found.every(), found.why());
    }
    Sample sample = found.sample().get();
    Map<Long, String> texts = texts(id, sample);
    return new SessionsView(
        sample.at().toEpochMilli(),
        found.every(),
        "",
        sample.total(),
        pooler(sample),
        longer(WAITING_MS, sample, session -> session.waitedMs(sample.engineAt())),
        longer(RUNNING_MS, sample, session -> ranMs(session, sample)),
        sample.sessions().stream()
            .filter(session -> session.who().kind() != Who.Kind.PARALLEL)
            .map(session -> SessionView.of(session, sample, texts))
            .toList(),
        sample.idle().stream()
            .map(i -> new SessionsView.Idle(i.user(), i.program(), i.database(), i.count()))
            .toList());
  }

  /**
   * @param at epoch ms; the latest sample without
   */
  @GetMapping("/locks")
  LocksView locks(@PathVariable int id, @RequestParam(required = false) Long at) {
    Found found = find(id, at);
    if (found.sample().isEmpty()) {
      return LocksView.nothing(found.every(), found.why());
    }
    Sample sample = found.sample().get();
    return LocksView.of(found.every(), sample, found.before().get(), texts(id, sample));
  }

  /**
   * @param by what they are split by: wait, user, program, module, statement, database or client
   * @param steps how many, at most 500
   */
  @GetMapping("/busy")
  BusyView busy(
      @PathVariable int id,
      @RequestParam long from,
      @RequestParam long to,
      @RequestParam(defaultValue = "wait") String by,
      @RequestParam(defaultValue = "120") int steps) {
    Times.requireWindow(from, to);
    if (steps < 1 || steps > MOST_STEPS) {
      throw Problem.field("steps", "Ask for 1 to " + MOST_STEPS + " steps.");
    }
    Busy.By what;
    try {
      what = Busy.By.of(by);
    } catch (IllegalArgumentException e) {
      throw Problem.field(
          "by",
          "Sessions are split by "
              + Arrays.stream(Busy.By.values()).map(Busy.By::word).collect(Collectors.joining(", "))
              + ".");
    }
    instances.row(id);
    if (store.samples().bytes(id, Instant.ofEpochMilli(from), Instant.ofEpochMilli(to))
        > MOST_BYTES) {
      throw Problem.field(
          "from",
          "In this window there are more samples than are added up at once. Look at a shorter one.");
    }
    int every = watch.sampling(id).map(Sampling::everyS).orElse(1);
    long stepMs = Math.max(every * 1000L, (to - from + steps - 1) / steps);
    long begin = Math.floorDiv(from, stepMs) * stepMs;
    int count = (int) ((to - begin + stepMs - 1) / stepMs);
    Busy busy = new Busy(what, begin, stepMs, count);
    store
        .samples()
        .between(
            id,
            Instant.ofEpochMilli(begin),
            Instant.ofEpochMilli(begin + count * stepMs),
            busy::add);
    return told(id, what, stepMs, busy.split(PARTS));
  }

  private BusyView told(int id, Busy.By by, long stepMs, Busy.Split split) {
    Map<Long, String> texts =
        by == Busy.By.STATEMENT
            ? store
                .statements()
                .texts(
                    id,
                    split.parts().stream()
                        .map(Busy.Part::name)
                        .filter(SessionController::isFingerprint)
                        .map(name -> Fingerprint.of(name))
                        .toList())
            : Map.of();
    double all = sum(split.all());
    return new BusyView(
        Arrays.stream(split.at()).boxed().toList(),
        stepMs,
        Arrays.stream(split.all()).mapToObj(v -> known(v)).toList(),
        split.parts().stream()
            .map(
                part ->
                    new BusyView.Part(
                        part.name(),
                        isFingerprint(part.name())
                            ? texts.getOrDefault(Fingerprint.of(part.name()), "")
                            : "",
                        all == 0 ? 0 : sum(part.mean()) / all,
                        Arrays.stream(part.mean()).mapToObj(v -> known(v)).toList()))
            .toList());
  }

  private static boolean isFingerprint(String name) {
    return name.matches("[0-9a-f]{1,16}");
  }

  private static double sum(double[] values) {
    return Arrays.stream(values).filter(v -> !Double.isNaN(v)).sum();
  }

  private Found find(int id, Long at) {
    instances.row(id);
    Optional<Sampling> sampling = watch.sampling(id);
    int every = sampling.map(Sampling::everyS).orElse(0);
    // of one that is not sampled now there may be samples from before
    Duration within = Duration.ofSeconds(LATELY * Math.max(5L, every));
    if (at == null) {
      Optional<Sample> latest = sampling.flatMap(Sampling::latest);
      return new Found(
          every,
          latest,
          () -> latest.flatMap(s -> store.samples().at(id, s.at().minusMillis(1), within)),
          why(sampling));
    }
    List<Sample> two = store.samples().lastTwo(id, Times.of("at", at), within);
    return new Found(
        every,
        two.stream().findFirst(),
        () -> two.stream().skip(1).findFirst(),
        "no sample was taken in the " + within.toSeconds() + " s before");
  }

  private static String why(Optional<Sampling> sampling) {
    return sampling
        .map(s -> s.refusal().map(r -> r.sentence()).orElse("the first sample is not taken yet"))
        .orElse("sessions are sampled of PostgreSQL engines that are not paused");
  }

  private Map<Long, String> texts(int id, Sample sample) {
    Set<Long> wanted =
        sample.sessions().stream().map(Session::statement).collect(Collectors.toSet());
    wanted.remove(0L);
    return store.statements().texts(id, wanted);
  }

  private static long ranMs(Session session, Sample sample) {
    return session.isBusy() ? sample.engineAt() - session.since().statement() : -1;
  }

  private static List<SessionsView.Longer> longer(
      long[] edges, Sample sample, ToLongFunction<Session> ms) {
    return Arrays.stream(edges)
        .mapToObj(
            edge ->
                new SessionsView.Longer(
                    edge,
                    (int)
                        sample.sessions().stream().filter(s -> ms.applyAsLong(s) >= edge).count()))
        .toList();
  }

  /** An address that more than four fifths come from. */
  private static String pooler(Sample sample) {
    List<Session> clients =
        sample.sessions().stream()
            .filter(s -> s.who().kind() == Who.Kind.CLIENT)
            .filter(s -> !s.who().client().isEmpty())
            .toList();
    return clients.stream()
        .collect(Collectors.groupingBy(s -> s.who().client(), Collectors.counting()))
        .entrySet()
        .stream()
        .filter(e -> clients.size() >= POOLED && e.getValue() > 0.8 * clients.size())
        .map(Map.Entry::getKey)
        .findFirst()
        .orElse("");
  }
}
