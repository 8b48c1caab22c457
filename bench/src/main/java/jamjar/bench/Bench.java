package jamjar.bench;

import java.time.Duration;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.Callable;

/**
 * Benchmarks by name. Each prints what it measured; the first line says when and on how many cores.
 */
public final class Bench {

  /** One benchmark. */
  @FunctionalInterface
  interface Run {
    void run(String[] options) throws Exception;
  }

  private static final Duration SOON = Duration.ofSeconds(120);
  private static final Map<String, Run> ALL = new LinkedHashMap<>();

  static {
    ALL.put("store", StoreBench::run);
    ALL.put("history", HistoryBench::run);
    ALL.put("midnight", MidnightBench::run);
    ALL.put("limits", LimitsBench::run);
    ALL.put("learn", LearnBench::run);
    ALL.put("leak", LeakBench::run);
    ALL.put("calm", CalmBench::run);
    ALL.put("signal", SignalBench::run);
    ALL.put("cost", CostBench::run);
    ALL.put("sessions", SessionsBench::run);
    ALL.put("statements", StatementsBench::run);
    ALL.put("ledger", LedgerBench::run);
    ALL.put("collect", CollectBench::run);
    ALL.put("estate", EstateBench::run);
    ALL.put("demo", DemoBench::run);
    ALL.put("opening", OpeningBench::run);
    ALL.put("beside", BesideBench::run);
    ALL.put("stalled", StalledStore::run);
    ALL.put("crash", CrashBench::run);
    ALL.put("telling", KilledTelling::run);
    ALL.put("full", FullDisk::run);
    ALL.put(Targets.COMMAND, Targets::serve);
    ALL.put(BesideBench.TOMCAT, TomcatTarget::run);
  }

  private Bench() {}

  public static void main(String[] args) throws Exception {
    Run run = args.length == 0 ? null : ALL.get(args[0]);
    if (run == null) {
      System.out.println(
          """
          Usage: ./jamjar bench NAME
            store [SECONDS]   values a second into the store (60), size at rest and time of reading,
                              beside a row per value
            history [N] [D]   six weeks of 200 instances brought in; what a server keeps that learns,
                              draws and ranks them (200 instances, 42 days)
            midnight          how long a write waits while days are packed and dropped and somebody reads
            calm [SEED]       what leaves its normal where nothing happens, what incidents teach, who left first
            signal [A] [B]    what the shipped limits tell of six weeks, and what else, on seeds A to B (2 to 6)
            learn             what is normal of five weeks of a series, beside the same quantiles in SQL
            limits [KILLS]    judgements a second, an estate's judging, kill -9 while judging (20)
            cost [MINUTES]    processor time of the collector's session at the engine (5)
            sessions [N] [S]  what sampling N sessions (500) every S seconds (1) costs the engine, and the
                              bytes of a session and sample
            statements [M]    calls and time of statements under load over M minutes (5), beside the engine's own view
            ledger [MINUTES]  commits as read, beside the load's own ledger (5)
            collect [MINUTES] lateness, processor and heap with 200 targets, 20 of them silent (10)
            estate [MINUTES]  1,000 targets at 1 GB of heap, then 200 that hang are changed (30)
            demo [MINUTES]    what the demo that is running takes of the machine (2)
            opening           the demo opened first: when its last day and its six weeks are there, learning
                              all of it anew, and a second start
            normal            a statement that gets slower is outside its normal, on a real engine
            clock             the machine's clock set by an hour, forward and back
            fuzz [SEED]       the properties with 50,000 tries, 10 million chunks, the API's calls from
                              another seed
            search            from a key press to the painted list, over 5,000 series
            screens           from a key press to painted data, of 22 and of 200 instances
            heads             a rolling restart, one that is missing, a site that is silent, on 18 servers
            trying            a limit in the browser: from a number to its past, and the page of 2,000 limits
            tab               a tab that is open for a day: what it keeps
            stalled           SIGSTOP of the own database for 40 s, its stop for 2 min, while reading
            crash [N] [S]     kill -9 of the server and of its database, SIGSTOP of that for S s (90), each
                              N times (20): every answer of what is watched is stored once
            telling [N]       kill -9 of the server N times (20) while people are told, in half of them with
                              its database standing still: what came, beside what was to be told
            full [SECONDS]    the disk with all that is Jam Jar's own is full for so long (60); as root
            beside            counters of Tomcat, a JVM and PostgreSQL beside their own tools""");
      System.exit(args.length == 0 || args[0].contains("help") ? 0 : 2);
    }
    System.out.printf(
        "bench %s, %s, %d cores, Java %s%n",
        String.join(" ", args),
        ZonedDateTime.now(ZoneOffset.UTC)
            .format(DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm 'UTC'")),
        Runtime.getRuntime().availableProcessors(),
        Runtime.version().feature());
    run.run(java.util.Arrays.copyOfRange(args, 1, args.length));
    System.exit(0);
  }

  /** A number, mostly of minutes, as first option, else the given. */
  static int minutes(String[] options, int otherwise) {
    return options.length == 0 ? otherwise : Integer.parseInt(options[0]);
  }

  /** Waits until it holds; how long that took, in s. */
  static double await(String what, Callable<Boolean> holds) throws Exception {
    long began = System.nanoTime();
    while (!holds.call()) {
      if (System.nanoTime() - began > SOON.toNanos()) {
        throw new IllegalStateException("never: " + what);
      }
      Thread.sleep(100);
    }
    return (System.nanoTime() - began) / 1e9;
  }
}
