package jamjar.standins.history;

import jamjar.core.reading.SeriesKey;
import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.StatementText;
import jamjar.core.session.Who;
import jamjar.standins.booking.Doing;
import jamjar.store.samples.SampleStore;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;

/**
 * The sessions of an engine in a time that is over: as many of each kind as its counters tell of
 * that moment, doing what the programs of Skerry Line do, and in the night of the fare reload who
 * blocked whom. A pure function of the seed and the moment.
 */
public final class SampledPast {
  /** Number of the session that reloads the fares. */
  public static final int RELOADS = 4377;

  /** As long as samples are kept. */
  private static final Duration KEPT = Duration.ofDays(35);

  private static final int COARSE_SECONDS = 60;
  private static final int FINE_SECONDS = 5;

  /** Of those that wait for the reload, so many wait for it directly; the others behind these. */
  static final int DIRECTLY = 5;

  private static final int FIRST_PID = 5_100;
  private static final int EACH = 40;
  private static final Map<String, String> EVENTS =
      Map.of(
          "IO", "DataFileRead",
          "LWLock", "WALWrite",
          "Client", "ClientRead",
          "IPC", "BgWorkerShutdown",
          "Timeout", "VacuumDelay",
          "BufferPin", "BufferPin");

  private final String name;
  private final EnginePast past;
  private final EngineStory story;
  private final long seed;
  private final List<Doing> doing;

  /** The texts of all that is done, by fingerprint. */
  private final Map<Long, String> texts = new HashMap<>();

  public SampledPast(String name, EnginePast past, EngineStory story, long seed) {
    this.name = name;
    this.past = past;
    this.story = story;
    this.seed = seed * 31 + name.hashCode();
    this.doing = name.equals(EngineStory.FREIGHT) ? List.of(Doing.FILE_MANIFEST) : Doing.BOOKINGS;
    doing.forEach(one -> one.statements().forEach(this::statement));
    statement(Doing.RELOAD);
  }

  public Map<Long, String> texts() {
    return Map.copyOf(texts);
  }

  private long statement(String sql) {
    StatementText text = StatementText.of(sql);
    texts.put(text.fingerprint(), text.text());
    return text.fingerprint();
  }

  /** The samples of a time: each minute, and every five seconds while somebody blocks others. */
  public List<Sample> between(Instant from, Instant to) {
    List<Sample> all = new ArrayList<>();
    for (Instant minute = from.truncatedTo(ChronoUnit.MINUTES);
        minute.isBefore(to);
        minute = minute.plusSeconds(COARSE_SECONDS)) {
      boolean fine = false;
      for (int s = 0; s < COARSE_SECONDS; s += FINE_SECONDS) {
        fine |= story.blocked(name, minute.plusSeconds(s)) > 0;
      }
      for (int s = 0; s < COARSE_SECONDS; s += fine ? FINE_SECONDS : COARSE_SECONDS) {
        Instant at = minute.plusSeconds(s);
        if (!at.isBefore(from) && at.isBefore(to)) {
          all.add(sample(at));
        }
      }
    }
    return all;
  }

  /** The sample of a moment. */
  public Sample sample(Instant at) {
    return new Making(at).sample();
  }

  /** Somebody who runs something at a moment, most likely one of those who are busiest. */
  Session one(Instant at) {
    return new Making(at).busy(Session.Wait.NONE);
  }

  private final class Making {
    private final Instant at;
    private final long now;
    private final SplittableRandom random;
    private final Map<SeriesKey, Double> told;
    private final double blocked;
    private final List<Session> sessions = new ArrayList<>();
    private final List<Sample.Lock> locks = new ArrayList<>();
    private final Map<String, Integer> taken = new HashMap<>();

    /** Where those that wait for the reload stand among the sessions. */
    private final List<Integer> waiters = new ArrayList<>();

    Making(Instant at) {
      this.at = at;
      this.now = at.toEpochMilli();
      this.random = new SplittableRandom(seed ^ now * 0x9e3779b97f4a7c15L);
      this.told = past.sessions(at);
      this.blocked = story.blocked(name, at);
    }

    private int count(String counter) {
      return told.getOrDefault(SeriesKey.of(counter), 0.0).intValue();
    }

    Sample sample() {
      int waiting = count("sessions.waiting_lock");
      int resting = count("sessions.idle_in_transaction");
      if (blocked > 0) {
        reload();
        resting--;
      }
      for (int i = 0; i < count("sessions.active_not_waiting"); i++) {
        sessions.add(busy(Session.Wait.NONE));
      }
      told.forEach(
          (key, value) -> {
            String kind = key.labels().getOrDefault("wait", "");
            if (key.counter().equals(EngineSessions.WAITING) && EVENTS.containsKey(kind)) {
              for (int i = 0; i < value; i++) {
                sessions.add(busy(new Session.Wait(kind, EVENTS.get(kind))));
              }
            }
          });
      for (int i = 0; i < resting; i++) {
        sessions.add(rests());
      }
      for (int i = 0; i < waiting; i++) {
        if (blocked > 0) {
          waitsForReload(i);
        } else {
          waits();
        }
      }
      return new Sample(at, now, List.copyOf(sessions), idle(), List.copyOf(locks));
    }

    /** Most are of who is busiest. */
    private Doing any() {
      double place = random.nextDouble() * doing.stream().mapToDouble(Doing::perSecond).sum();
      for (Doing one : doing) {
        place -= one.perSecond();
        if (place <= 0) {
          return one;
        }
      }
      return doing.get(0);
    }

    /** A connection of a program: they live for a day. */
    private Who who(Doing of) {
      int nth = taken.merge(of.program(), 1, Integer::sum) - 1;
      Instant day = at.truncatedTo(ChronoUnit.DAYS);
      long dayNumber = day.getEpochSecond() / 86_400;
      int pid = FIRST_PID + (int) (dayNumber % 97) * 211 + doing.indexOf(of) * EACH + nth;
      return new Who(
          pid,
          day.toEpochMilli() + nth * 1_300L,
          Who.Kind.CLIENT,
          of.user(),
          of.program(),
          name.equals(EngineStory.FREIGHT) ? "freight" : "bookings",
          of.client());
    }

    private Session busy(Session.Wait wait) {
      Doing of = any();
      String sql = of.statements().get(random.nextInt(of.statements().size()));
      long ran = ran();
      return session(
          who(of),
          Session.State.ACTIVE,
          wait,
          sql,
          new Session.Since(now - ran, now - ran, now - ran - random.nextInt(30), 0),
          Session.SNAPSHOT,
          List.of());
    }

    /** For how long it has run, in ms: mostly short. */
    private long ran() {
      double usual = -Math.log(1 - random.nextDouble()) * 6;
      return 1 + (long) (usual * story.slower(name, at));
    }

    private Session rests() {
      Doing of = any();
      String sql = of.statements().get(of.statements().size() - 1);
      long since = now - 1 - random.nextInt(40);
      return session(
          who(of),
          Session.State.IN_TRANSACTION,
          new Session.Wait("Client", "ClientRead"),
          sql,
          new Session.Since(since, since - ran(), since - ran() - 8, 0),
          Session.XID,
          List.of());
    }

    private Session session(
        Who who,
        Session.State state,
        Session.Wait wait,
        String sql,
        Session.Since since,
        int holds,
        List<Integer> blockers) {
      return new Session(who, state, wait, statement(sql), "", since, 0, holds, blockers);
    }

    /** It holds its lock while it does nothing. */
    private void reload() {
      long since = now - (long) (blocked * 1000);
      sessions.add(
          session(
              new Who(
                  RELOADS,
                  since - 70_000,
                  Who.Kind.CLIENT,
                  "fare_load",
                  "fare-reload",
                  "bookings",
                  "10.20.2.29"),
              Session.State.IN_TRANSACTION,
              new Session.Wait("Client", "ClientRead"),
              Doing.RELOAD,
              new Session.Since(since - 15_000, since - 18_000, since - 20_000, 0),
              Session.XID,
              List.of()));
      locks.add(new Sample.Lock(RELOADS, true, "relation", "AccessExclusiveLock", "sailing"));
    }

    /** The first ones wait for the reload, the next ones for rows that these have, and so on. */
    private void waitsForReload(int nth) {
      Doing of = doing.get(0);
      Who who = who(of);
      long since = now - (long) (1000 * Math.max(0.1, blocked - EngineStory.arrived(nth)));
      boolean direct = nth < DIRECTLY;
      int before = sessions.size();
      int blocker = direct ? RELOADS : waiter(nth < DIRECTLY + 2 ? 0 : DIRECTLY);
      sessions.add(
          session(
              who,
              Session.State.ACTIVE,
              new Session.Wait("Lock", direct ? "relation" : "transactionid"),
              Doing.HOLD_BERTH.sql(direct ? 0 : 1),
              new Session.Since(since, since, since - 12, since),
              Session.XID | Session.SNAPSHOT,
              List.of(blocker)));
      waiters.add(before);
      if (direct) {
        locks.add(new Sample.Lock(who.pid(), false, "relation", "RowShareLock", "sailing"));
      } else {
        String transaction = "transaction " + (900_000 + blocker);
        locks.add(new Sample.Lock(who.pid(), false, "transactionid", "ShareLock", transaction));
        locks.add(
            new Sample.Lock(
                who.pid(), true, "tuple", "ExclusiveLock", "row (3," + nth + ") of berth"));
        locks.add(new Sample.Lock(blocker, true, "transactionid", "ExclusiveLock", transaction));
      }
    }

    private int waiter(int nth) {
      return sessions.get(waiters.get(nth)).pid();
    }

    /** Two want the same sailing: the second waits for the row of the first. */
    private void waits() {
      long since = now - 1 - random.nextInt(30);
      int blocker = sessions.isEmpty() ? RELOADS - 1 : sessions.get(0).pid();
      Who who = who(doing.get(0));
      sessions.add(
          session(
              who,
              Session.State.ACTIVE,
              new Session.Wait("Lock", "transactionid"),
              Doing.HOLD_BERTH.sql(0),
              new Session.Since(since, since, since - 1, since),
              Session.SNAPSHOT,
              List.of(blocker)));
      String transaction = "transaction " + (900_000 + blocker);
      locks.add(new Sample.Lock(who.pid(), false, "transactionid", "ShareLock", transaction));
      locks.add(new Sample.Lock(blocker, true, "transactionid", "ExclusiveLock", transaction));
      locks.add(new Sample.Lock(who.pid(), true, "tuple", "ExclusiveLock", "row (1,7) of sailing"));
    }

    private List<Sample.Idle> idle() {
      String database = name.equals(EngineStory.FREIGHT) ? "freight" : "bookings";
      int tried = story.idle(name, at);
      int left = Math.max(0, count("sessions.idle") - tried);
      List<Sample.Idle> all = new ArrayList<>();
      for (int i = 0; i < doing.size(); i++) {
        int share = left / doing.size() + (i < left % doing.size() ? 1 : 0);
        if (share > 0) {
          all.add(new Sample.Idle(doing.get(i).user(), doing.get(i).program(), database, share));
        }
      }
      if (tried > 0) {
        all.add(new Sample.Idle("postgres", "pool-too-large", database, tried));
      }
      return all;
    }
  }

  /** When the oldest was taken that would be kept by the end. */
  public Instant begin(Instant end) {
    return Newest.begin(KEPT, end);
  }

  /** Writes all that would be kept by the end, the newest hours first; what is there is left. */
  public void write(SampleStore store, int instance, Instant end) {
    Newest.hours(KEPT, end, (hour, to) -> store.put(instance, hour, between(hour, to)));
  }
}
