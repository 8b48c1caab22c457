package jamjar.standins.servers;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import javax.management.openmbean.CompositeData;

/**
 * The threads of a stand-in: those that work on a request, those that wait for a connection of a
 * pool, those that rest; and what they hold and wait for.
 */
final class SimThreads {
  /** What a thread does, as its stack tells. */
  private enum Doing {
    IN_DATABASE(
        "sun.nio.ch.SocketDispatcher.read0",
        "sun.nio.ch.NioSocketImpl.implRead:309",
        "org.postgresql.core.VisibleBufferedInputStream.readMore:162",
        "org.postgresql.core.v3.QueryExecutorImpl.processResults:2102",
        "org.postgresql.jdbc.PgPreparedStatement.executeQuery:134",
        "skerry.store.Rows.ask:58",
        "skerry.web.Step.work:41",
        "skerry.web.RequestPool$Worker.run:112"),
    WORKS(
        "skerry.fares.FareTable.priceOf:77",
        "skerry.web.Step.work:38",
        "skerry.web.RequestPool$Worker.run:112"),
    WAITS_FOR_CONNECTION(
        "jdk.internal.misc.Unsafe.park",
        "java.util.concurrent.locks.LockSupport.parkNanos:252",
        "java.util.concurrent.SynchronousQueue$TransferQueue.transfer:704",
        "skerry.pool.ConnectionPool.borrow:214",
        "skerry.store.Rows.ask:51",
        "skerry.web.Step.work:41",
        "skerry.web.RequestPool$Worker.run:112"),
    BLOCKED(
        "skerry.fares.FareTable.priceOf:71",
        "skerry.web.Step.work:38",
        "skerry.web.RequestPool$Worker.run:112"),
    RESTS(
        "jdk.internal.misc.Unsafe.park",
        "java.util.concurrent.locks.LockSupport.park:341",
        "java.util.concurrent.LinkedBlockingQueue.take:435",
        "skerry.web.RequestPool$Worker.run:104"),
    TIMER("java.lang.Object.wait", "java.util.TimerThread.mainLoop:563"),
    REFUNDS(
        "skerry.pay.Accounts.lockPayment:90",
        "skerry.pay.Refund.run:44",
        "skerry.web.RequestPool$Worker.run:112"),
    PAYS(
        "skerry.pay.Accounts.lockRefund:101",
        "skerry.pay.Pay.run:37",
        "skerry.web.RequestPool$Worker.run:112");

    final List<String> stack;

    Doing(String... stack) {
      this.stack = List.of(stack);
    }
  }

  /** Numbers of the two that wait for each other. */
  private static final long REFUND = 9_001;

  private static final long PAY = 9_002;
  private static final long NOBODY = -1;
  private static final String CONDITION =
      "java.util.concurrent.locks.AbstractQueuedSynchronizer$ConditionObject@2f0e";

  /** One of them. */
  private static final class One {
    private final long id;
    private final String name;
    private final String state;

    /** Null for none. */
    private final String lock;

    private final long owner;
    private final Doing doing;
    private volatile CompositeData told;

    One(long id, String name, String state, String lock, long owner, Doing doing) {
      this.id = id;
      this.name = name;
      this.state = state;
      this.lock = lock;
      this.owner = owner;
      this.doing = doing;
    }

    CompositeData told() {
      CompositeData made = told;
      if (made == null) {
        made = Composites.thread(id, name, state, lock, owner, doing.stack);
        told = made;
      }
      return made;
    }
  }

  /**
   * What they do who wait for nobody is told by their number: they are from one moment to the next
   * what they were, and made anew each time they would cost the most.
   */
  private static final Map<Doing, Map<Long, One>> ALONE = new EnumMap<>(Doing.class);

  static {
    for (Doing doing : Doing.values()) {
      ALONE.put(doing, new ConcurrentHashMap<>());
    }
  }

  private final Map<Long, One> all = new LinkedHashMap<>();

  /**
   * What is known of a moment.
   *
   * @param count how many there are, those in a ring not counted
   * @param busy how many of them work on a request
   * @param blocked how many of these wait for a lock that another one of them holds
   * @param waiting how many of these wait for a connection, by pool
   * @param ring whether two more wait for each other, and a few for them
   */
  record Moment(int count, int busy, int blocked, Map<String, Integer> waiting, boolean ring) {}

  private final Moment of;

  /** The threads of a moment. */
  SimThreads(Moment of) {
    this.of = of;
    int count = of.count();
    int busy = of.busy();
    int blocked = of.blocked();
    boolean ring = of.ring();
    List<String> pools = new ArrayList<>();
    of.waiting()
        .forEach(
            (pool, n) -> {
              for (int i = 0; i < n; i++) {
                pools.add(pool);
              }
            });
    for (int i = 0; i < count; i++) {
      long id = i + 1L;
      if (i >= busy) {
        rests(id, i);
      } else if (ring && i < 3) {
        put(id, "http-exec-" + id, "BLOCKED", "skerry.pay.Refund@5b2f", PAY, Doing.REFUNDS);
      } else if (i < blocked && busy > 1) {
        put(id, "http-exec-" + id, "BLOCKED", "skerry.fares.FareTable@3c1e", busy, Doing.BLOCKED);
      } else if (i - blocked < pools.size() && i < busy - 1) {
        String lock = "skerry.pool.ConnectionPool$Turn@" + Integer.toHexString(0x4a00 + i);
        put(id, "http-exec-" + id, "TIMED_WAITING", lock, NOBODY, Doing.WAITS_FOR_CONNECTION);
      } else {
        Doing doing = i % 4 == 0 ? Doing.WORKS : Doing.IN_DATABASE;
        alone(doing, id, () -> new One(id, "http-exec-" + id, "RUNNABLE", null, NOBODY, doing));
      }
    }
    if (ring) {
      put(REFUND, "refund-1", "BLOCKED", "skerry.pay.Payment@71aa", PAY, Doing.REFUNDS);
      put(PAY, "pay-1", "BLOCKED", "skerry.pay.Refund@5b2e", REFUND, Doing.PAYS);
    }
  }

  private void rests(long id, int i) {
    if (i % 3 == 0) {
      String lock = "java.util.TaskQueue@" + Integer.toHexString(0x600 + i);
      alone(
          Doing.TIMER,
          id,
          () -> new One(id, "timer-" + id, "TIMED_WAITING", lock, NOBODY, Doing.TIMER));
    } else {
      alone(
          Doing.RESTS,
          id,
          () -> new One(id, "http-exec-" + id, "WAITING", CONDITION, NOBODY, Doing.RESTS));
    }
  }

  private void alone(Doing doing, long id, Supplier<One> made) {
    all.put(id, ALONE.get(doing).computeIfAbsent(id, n -> made.get()));
  }

  private void put(long id, String name, String state, String lock, long owner, Doing doing) {
    all.put(id, new One(id, name, state, lock, owner, doing));
  }

  boolean isOf(Moment moment) {
    return of.equals(moment);
  }

  long[] ids() {
    return all.keySet().stream().mapToLong(Long::longValue).toArray();
  }

  /** What is known of some; of one that is not there nothing. */
  CompositeData[] of(long[] ids) {
    CompositeData[] found = new CompositeData[ids.length];
    for (int i = 0; i < ids.length; i++) {
      One one = all.get(ids[i]);
      if (one != null) {
        found[i] = one.told();
      }
    }
    return found;
  }

  /** Those that wait for each other for ever; null for none, as a JVM tells it. */
  long[] ring() {
    return all.containsKey(REFUND) ? new long[] {REFUND, PAY} : null;
  }
}
