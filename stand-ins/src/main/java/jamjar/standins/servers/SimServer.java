package jamjar.standins.servers;

import jamjar.standins.servers.Mischief.Kind;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongSupplier;
import javax.management.JMException;
import javax.management.MBeanServer;
import javax.management.MBeanServerFactory;

/**
 * One JVM or application server of Skerry Line: its own managed beans on a port of its own. Its
 * numbers follow from each other second by second: what comes in keeps threads and connections busy
 * for as long as it takes.
 */
public final class SimServer implements AutoCloseable {
  private static final long BEGAN_MILLIS = System.currentTimeMillis();
  private static final long BEGAN_NANOS = System.nanoTime();
  private static final double LEAK_PER_SECOND = 0.01;

  /** So many times as many connections as there are would be out where the database holds up. */
  private static final double HELD_UP = 1.2;

  private static final long SLOW_ANSWER_MILLIS = 400;

  private final Profile profile;
  private final int port;
  private final Mischief mischief;
  private final Story story;
  private final Noise noise;
  private final SimJvm jvm;
  private final AtomicLong answers = new AtomicLong();
  private final RequestPool requests = new RequestPool();
  private final List<Step> steps = new ArrayList<>();
  private final List<Pool> pools = new ArrayList<>();
  private volatile Map<String, String> addresses = Map.of();
  private final List<Queue> queues = new ArrayList<>();
  private long committed;
  private long rolledBack;
  private long timedOut;
  private int open;
  private double webSessions;
  private long begun;
  private long expired;
  private volatile boolean hanging;
  private volatile boolean silent;
  private final List<Socket> queued = new ArrayList<>();
  private volatile boolean lying;
  private volatile boolean slow;
  private MBeanServer beans;
  private ManagedServer server;

  /** A step of a customer, worked on by a component. */
  private static final class Step {
    final Profile.Step told;
    long calls;
    long millis;
    long errors;
    int active;
    long made = 4;
    long discarded;

    Step(Profile.Step told) {
      this.told = told;
    }
  }

  private static final class RequestPool {
    int busy;
    int waiting;
    long refused;
    long served;
    long millis;
    long errors;
    long longest;
  }

  private static final class Pool {
    final Profile.Pool told;
    int inUse;
    int waiters;
    int open;
    long lent;
    long waitMillis;
    long holdMillis;
    long made;
    long closed;
    long notGivenBack;
    long givenUp;

    Pool(Profile.Pool told) {
      this.told = told;
      this.open = told.max() / 2;
      this.made = open;
    }
  }

  private static final class Queue {
    final Profile.Queue told;
    double pending;
    long in;
    long out;
    long oldestMillis;

    Queue(Profile.Queue told) {
      this.told = told;
    }
  }

  /**
   * @param port of 127.0.0.1
   * @param seed of its noise
   */
  public SimServer(Profile profile, int port, Mischief mischief, long seed) {
    this(profile, port, mischief, Story.NONE, seed, SimServer::sinceEver);
  }

  /**
   * @param story what happens to it by itself
   * @param millis its clock, which never goes back
   */
  SimServer(
      Profile profile, int port, Mischief mischief, Story story, long seed, LongSupplier millis) {
    this.profile = profile;
    this.port = port;
    this.mischief = mischief;
    this.story = story;
    this.noise = new Noise(seed);
    this.jvm = new SimJvm(seed + 1, profile.floor(), millis);
    profile.steps().forEach(step -> steps.add(new Step(step)));
    profile.pools().forEach(pool -> pools.add(new Pool(pool)));
    profile.queues().forEach(queue -> queues.add(new Queue(queue)));
    this.webSessions = profile.perSecond() * 30;
  }

  /** Wall clock at the start of this process, and on from there by the one that never goes back. */
  static long sinceEver() {
    return BEGAN_MILLIS + (System.nanoTime() - BEGAN_NANOS) / 1_000_000;
  }

  public String name() {
    return profile.name();
  }

  public Profile profile() {
    return profile;
  }

  /** How many answers it gave and numbered. */
  public long answered() {
    return answers.get();
  }

  public int port() {
    return port;
  }

  /** Its managed beans, for who reads them within this process. */
  public synchronized MBeanServer beans() throws JMException {
    if (beans == null) {
      beans = MBeanServerFactory.newMBeanServer();
      register();
    }
    return beans;
  }

  /**
   * As if it had run for long by then.
   *
   * @param share of the way to the next full collection of its heap, 0 to 1
   */
  void hasRun(Instant now, double share) {
    story.floor(profile, now).ifPresent(jvm::keeps);
    jvm.hasRun(share);
    webSessions = profile.perSecond() * profile.share(now) * 30;
  }

  public synchronized void start() throws IOException, JMException {
    beans = null;
    beans();
    server = new ManagedServer(beans, port);
  }

  /** One second goes by. */
  public synchronized void second(Instant now) throws IOException, JMException {
    boolean stopped = mischief.on(name(), Kind.STOP);
    if (stopped != (server == null)) {
      if (stopped) {
        close();
      } else {
        restart();
      }
    }
    hanging = mischief.on(name(), Kind.HANG);
    lying = mischief.on(name(), Kind.LIE);
    slow = mischief.on(name(), Kind.SLOW);
    if (server != null) {
      pass(now, 1);
    }
  }

  /** The ways in which a server can take a call and not answer it. */
  public enum Silence {
    NO_ACCEPT,
    ACCEPTS_AND_IS_SILENT,
    MID_ANSWER,
    AFTER_SIGN_IN
  }

  /** Falls silent for good. */
  public synchronized void fallSilent(Silence way) throws IOException {
    switch (way) {
      case NO_ACCEPT -> {
        server.acceptNobody();
        fillQueue();
      }
      case ACCEPTS_AND_IS_SILENT -> server.stall(0, true);
      case MID_ANSWER -> server.stall(40, false);
      case AFTER_SIGN_IN -> silent = true;
    }
  }

  /** The kernel still takes connections for one that accepts none, until its queue is full. */
  private void fillQueue() {
    try {
      while (true) {
        Socket socket = new Socket();
        queued.add(socket);
        socket.connect(new InetSocketAddress("127.0.0.1", port), 300);
      }
    } catch (IOException full) {
      // as wanted
    }
  }

  private void restart() throws IOException, JMException {
    jvm.restart(profile.floor());
    answers.set(0);
    steps.replaceAll(step -> new Step(step.told));
    pools.replaceAll(pool -> new Pool(pool.told));
    queues.replaceAll(queue -> new Queue(queue.told));
    requests.served = requests.millis = requests.errors = requests.refused = 0;
    committed = rolledBack = timedOut = begun = expired = 0;
    start();
  }

  /** Some seconds of work, as busy as at a moment. */
  public synchronized void pass(Instant now, int seconds) {
    double wanted =
        profile.perSecond() * profile.share(now) * story.load(profile, now) * noise.next(seconds);
    double times = slow ? 8 : 1;
    boolean filled = mischief.on(name(), Kind.FILL_POOL);
    double workload = 0;
    double millis = 0;
    for (Step step : steps) {
      long calls = noise.count(wanted * step.told.share() * seconds);
      double each = step.told.millis() * times * (0.9 + 0.2 * noise.next(seconds) / 2);
      step.calls += calls;
      step.millis += Math.round(calls * each);
      // what is at work is seen at one moment, however long the step
      long inOne = seconds == 1 ? calls : noise.count(wanted * step.told.share());
      step.active = (int) Math.round(inOne * each / 1000);
      step.errors += noise.count(calls * (slow ? 0.02 : 0.001));
      millis += calls * each;
      workload += inOne * each / 1000;
    }
    boolean heldUp = mischief.on(name(), Kind.HOLD_UP);
    for (Pool pool : pools) {
      double empty = filled ? Story.EMPTIED : story.empties(profile, pool.told, now);
      double hold = times * story.hold(profile, pool.told, now);
      pool(pool, wanted, hold, empty, heldUp && pool == pools.get(0), seconds);
    }
    long calls = noise.count(wanted * seconds);
    int stuck = pools.stream().mapToInt(pool -> pool.waiters).sum();
    int busy = (int) Math.round(workload) + stuck;
    requests.busy = Math.min(profile.threads(), busy);
    requests.waiting = Math.max(0, busy - profile.threads());
    requests.refused += (long) seconds * Math.max(0, requests.waiting - profile.threads());
    requests.served += calls;
    requests.millis += Math.round(millis);
    requests.errors += noise.count(calls * (slow ? 0.02 : 0.001));
    requests.longest = requests.busy == 0 ? 0 : Math.round(900 * times * noise.next(seconds));
    committed += noise.count(wanted * 0.6 * seconds);
    rolledBack += noise.count(wanted * 0.004 * times * seconds);
    timedOut += slow ? noise.count(0.3 * seconds) : 0;
    open = (int) Math.round(workload * 0.5);
    long came = noise.count(wanted * 0.15 * seconds);
    long left = noise.count(webSessions / 200 * seconds);
    begun += came;
    expired += left;
    webSessions = Math.max(0, webSessions + came - left);
    boolean up = mischief.on(name(), Kind.QUEUE_UP);
    queues.forEach(queue -> queue(queue, now, up, seconds));
    if (story.restarts(profile, now.minusSeconds(seconds), now)) {
      jvm.restart(profile.floor());
    }
    story.floor(profile, now).ifPresent(jvm::keeps);
    Map<String, Integer> waiting = new LinkedHashMap<>();
    pools.forEach(pool -> waiting.put(pool.told.name(), pool.waiters));
    jvm.waits(waiting, mischief.on(name(), Kind.DEADLOCK));
    double leak = mischief.on(name(), Kind.LEAK) ? LEAK_PER_SECOND : 0;
    jvm.pass(seconds, wanted, requests.busy, leak);
  }

  /**
   * @param empty how many connections are held for long, as a share of the pool; 0 for none
   * @param heldUp whether the database holds up what it was asked: none is lost, all take long
   */
  private void pool(
      Pool pool, double wanted, double times, double empty, boolean heldUp, int seconds) {
    double perSecond = wanted * pool.told.perRequest();
    long lent = noise.count(perSecond * seconds);
    double hold = pool.told.holdMillis() * times * (0.9 + 0.1 * noise.next(seconds));
    double inOne = seconds == 1 ? lent : noise.count(perSecond);
    if (heldUp) {
      // as many are out as arrive while one is held
      inOne = Math.max(0.1, perSecond);
      hold = Math.max(hold, HELD_UP * pool.told.max() * 1000 / inOne);
    }
    double need = inOne * hold / 1000 + empty * pool.told.max();
    pool.inUse = (int) Math.min(pool.told.max(), Math.round(need));
    pool.waiters = (int) Math.max(0, Math.round(need) - pool.told.max());
    pool.lent += lent;
    pool.holdMillis += Math.round(lent * hold);
    pool.waitMillis += pool.waiters * 1000L * seconds + noise.count(0.2 * seconds);
    if (pool.inUse > pool.open) {
      pool.made += pool.inUse - pool.open;
      pool.open = pool.inUse;
    } else if (noise.count(0.02 * seconds) > 0 && pool.open > pool.inUse) {
      pool.open--;
      pool.closed++;
    }
    if (empty > 0) {
      pool.notGivenBack += noise.count(0.1 * seconds);
      pool.givenUp += noise.count(pool.waiters / 30.0 * seconds);
    }
  }

  private void queue(Queue queue, Instant now, boolean up, int seconds) {
    double rate = queue.told.perSecond() * Rhythm.booking(now) * story.load(profile, now);
    long in = noise.count(rate * (up ? 4 : 1) * seconds);
    long room =
        up ? noise.count(rate * 0.2 * seconds) : noise.count(queue.told.outPerSecond() * seconds);
    queue.pending += in;
    long out = (long) Math.min(queue.pending, room);
    queue.pending -= out;
    queue.in += in;
    queue.out += out;
    double drained = Math.max(0.1, up ? rate * 0.2 : queue.told.outPerSecond());
    queue.oldestMillis = queue.pending < 1 ? 0 : Math.round(1000 * queue.pending / drained);
  }

  /**
   * Where its pools lead to from now on.
   *
   * @param byName the addresses of engines, by their names
   */
  public void leads(Map<String, String> byName) {
    addresses = Map.copyOf(byName);
  }

  /** Called before each answer. */
  private void asked() {
    try {
      while (hanging || silent) {
        Thread.sleep(100);
      }
      if (slow) {
        Thread.sleep(SLOW_ANSWER_MILLIS / 20);
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** One that lies gives counts that fall and levels that cannot be. */
  private Object told(Number value) {
    if (!lying) {
      return value;
    }
    return value instanceof Long count ? (Object) (count / 2) : (Object) Double.NaN;
  }

  private void register() throws JMException {
    jvm.register(beans, profile.name() + "@stand-in", this::asked);
    if (!profile.appserver()) {
      return;
    }
    bean("type=RequestPool,name=http")
        .with("Busy", () -> told(requests.busy))
        .with("Idle", () -> Math.max(0, profile.threads() / 2 - requests.busy))
        .with("Maximum", profile::threads)
        .with("Waiting", () -> told(requests.waiting))
        .with("Refused", () -> told(requests.refused))
        .with("LongestMillis", () -> requests.longest)
        .with("Served", () -> told(requests.served))
        .with("Millis", () -> told(requests.millis))
        .with("Errors", () -> told(requests.errors));
    for (int i = 0; i < pools.size(); i++) {
      Pool pool = pools.get(i);
      bean("type=ConnectionPool,name=" + pool.told.name())
          .with("InUse", () -> told(pool.inUse))
          .with("Idle", () -> Math.max(0, pool.open - pool.inUse))
          .with("Maximum", () -> pool.told.max())
          .with("Waiters", () -> told(pool.waiters))
          .with("Lent", () -> told(pool.lent))
          .with("WaitMillis", () -> told(pool.waitMillis))
          .with("HoldMillis", () -> told(pool.holdMillis))
          .with("Made", () -> told(pool.made))
          .with("Closed", () -> told(pool.closed))
          .with("NotGivenBack", () -> told(pool.notGivenBack))
          .with("GivenUp", () -> told(pool.givenUp))
          .with("Address", () -> addresses.get(pool.told.database()));
    }
    for (Queue queue : queues) {
      bean("type=Queue,name=" + queue.told.name())
          .with("Pending", () -> told((int) queue.pending))
          .with("In", () -> told(queue.in))
          .with("Out", () -> told(queue.out))
          .with("Consumers", () -> queue.told.consumers())
          .with("OldestMillis", () -> queue.oldestMillis);
    }
    bean("type=Transactions")
        .with("Committed", () -> told(committed))
        .with("RolledBack", () -> told(rolledBack))
        .with("TimedOut", () -> told(timedOut))
        .with("Active", () -> open);
    for (String application : profile.applications()) {
      bean("type=WebSessions,application=" + application)
          .with("Active", () -> (int) webSessions)
          .with("Begun", () -> told(begun))
          .with("Expired", () -> told(expired))
          .with("Rejected", () -> 0L);
      bean("type=Application,name=" + application).with("State", () -> "started");
    }
    for (Step step : steps) {
      bean("type=Component,application=" + step.told.application() + ",name=" + step.told.name())
          .with("Calls", () -> told(step.calls))
          .with("Millis", () -> told(step.millis))
          .with("Errors", () -> told(step.errors))
          .with("Active", () -> step.active)
          .with("Waiting", () -> Math.max(0, step.active - 20))
          .with("Made", () -> told(step.made))
          .with("Discarded", () -> told(step.discarded));
    }
    bean("type=Answers").with("Number", answers::incrementAndGet);
  }

  private SimBean bean(String properties) throws JMException {
    SimBean bean = new SimBean(this::asked);
    SimJvm.put(beans, "skerry:" + properties, bean);
    return bean;
  }

  @Override
  public synchronized void close() throws IOException {
    hanging = false;
    silent = false;
    for (Socket socket : queued) {
      socket.close();
    }
    if (server != null) {
      server.close();
      server = null;
    }
  }
}
