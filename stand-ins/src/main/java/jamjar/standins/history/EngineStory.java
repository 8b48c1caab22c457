package jamjar.standins.history;

import jamjar.standins.booking.Doing;
import jamjar.standins.servers.Rhythm;
import jamjar.standins.servers.Story;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZonedDateTime;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import java.util.stream.IntStream;

/**
 * What happened to Skerry Line's engines in the six weeks before the demo was opened first: a pure
 * function of that moment.
 */
public final class EngineStory {
  public static final String WRITER = "booking-db-a";
  public static final String READER = "booking-db-b";
  public static final String FREIGHT = "freight-db";

  /** Of the last fourteen nights the fare reload overran in these. */
  private static final List<Integer> OVERRUN_NIGHTS = List.of(1, 2, 4, 5, 7, 9, 10, 12, 13);

  /** What never happens, happens then. */
  private static final Instant NEVER = Instant.parse("9999-01-01T00:00:00Z");

  private static final Duration BLOCKED = Duration.ofMinutes(42);
  private static final int MOST_WAITING = 9;
  private static final double SLOWER = 1.8;
  private static final double WITHOUT_INDEX = 9;

  /** Of the statement alone. */
  private static final double WITHOUT_INDEX_IT = 45;

  private static final double LOYALTY_SLOWER = 2;

  private final Story story;
  private final Instant end;
  private final Instant reload;
  private final Instant dropped;
  private final Instant back;
  private final Instant idle;
  private final Instant deadlock;
  private final Instant slower;

  /** When those of the fourteen nights began, by how long they lasted. */
  private final List<Story.Stretch> overruns;

  /** A moment that somebody marked. */
  public record Mark(String title, String note, String instance, Instant at) {}

  /**
   * @param story the one of the servers; nothing ever happens where nothing does to those
   * @param end when the demo was opened first
   */
  public EngineStory(Story story, Instant end) {
    this.story = story;
    this.end = end;
    this.reload = story.moved(ago(16, LocalTime.of(2, 10)));
    this.dropped = story.moved(ago(9, LocalTime.of(10, 20)));
    this.back = ago(7, LocalTime.of(15, 40));
    this.idle = ago(8, LocalTime.of(13, 5));
    this.deadlock = story.moved(ago(2, LocalTime.of(21, 0)));
    this.slower = ago(0, LocalTime.of(6, 0));
    this.overruns =
        OVERRUN_NIGHTS.stream()
            .map(
                night ->
                    new Story.Stretch(
                        "overrun",
                        "the fare reload overran",
                        WRITER,
                        // a little after it should be over, for 3 to 8 s
                        ago(night, LocalTime.of(2, 12)).minusSeconds(2),
                        Duration.ofSeconds(3 + night * 7 % 6)))
            .toList();
  }

  private Instant ago(int days, LocalTime time) {
    return story == Story.NONE ? NEVER : Story.daysAgo(end, days, time);
  }

  public List<Mark> marks() {
    return List.of(
        new Mark("index dropped", "manifest_state is gone with release 4.9", FREIGHT, dropped),
        new Mark("index back", "manifest_state is there again", FREIGHT, back));
  }

  /** In one night the fare reload held up all others. */
  public Story.Stretch reload() {
    return new Story.Stretch("incident", "fare reload blocked hold berth", WRITER, reload, BLOCKED);
  }

  /** How busy an engine was, 1 for an ordinary hour of the day. */
  double load(String engine, Instant at) {
    double rhythm = Rhythm.booking(at) * batch(at);
    if (story.maintenance().holds(at)) {
      return engine.equals(WRITER) ? rhythm * 1.3 : rhythm * 0.05;
    }
    return rhythm;
  }

  /** The last working day of a month has a batch from 22:00 to 01:00. */
  private static double batch(Instant at) {
    ZonedDateTime local = at.atZone(Story.ZONE).minusHours(1);
    LocalDate last = local.toLocalDate().with(TemporalAdjusters.lastDayOfMonth());
    while (last.getDayOfWeek().compareTo(DayOfWeek.FRIDAY) > 0) {
      last = last.minusDays(1);
    }
    return local.toLocalDate().equals(last) && local.getHour() >= 21 ? 1.9 : 1;
  }

  /** So many times as much as usual, as strong as it is told. */
  private double stronger(double times) {
    return 1 + story.strength() * (times - 1);
  }

  /** How many times as long as usual statements take. */
  double slower(String engine, Instant at) {
    if (engine.equals(FREIGHT) && holds(dropped, back, at)) {
      return stronger(WITHOUT_INDEX);
    }
    return engine.equals(WRITER) && !at.isBefore(slower) ? stronger(SLOWER) : 1;
  }

  /**
   * The statement that the change of an engine is about.
   *
   * @return how it begins its life: as a program sends it
   */
  static String changed(String engine) {
    return engine.equals(FREIGHT) ? Doing.FILE_MANIFEST.sql(1) : Doing.LOYALTY.sql(0);
  }

  /** How many times as long as usual that statement takes. */
  double itSlower(String engine, Instant at) {
    if (engine.equals(FREIGHT) && holds(dropped, back, at)) {
      return stronger(WITHOUT_INDEX_IT);
    }
    return engine.equals(WRITER) && !at.isBefore(slower) ? stronger(LOYALTY_SLOWER) : 1;
  }

  /** How many times as many blocks and rows as usual they read. */
  double reads(String engine, Instant at) {
    return engine.equals(FREIGHT) && holds(dropped, back, at) ? stronger(3 * WITHOUT_INDEX) : 1;
  }

  /** For how long the fare reload has been blocking others, in s; 0 when it does not. */
  double blocked(String engine, Instant at) {
    if (!engine.equals(WRITER)) {
      return 0;
    }
    if (holds(reload, reload.plus(BLOCKED), at)) {
      return seconds(reload, at);
    }
    for (Story.Stretch overrun : overruns) {
      if (overrun.holds(at)) {
        return seconds(overrun.from(), at);
      }
    }
    return 0;
  }

  /** How many wait when it has been blocked for so long. */
  int waiting(double blocked) {
    double most = Math.floor(story.strength() * MOST_WAITING);
    return blocked == 0 ? 0 : (int) Math.min(most, 2 + blocked / 60);
  }

  /** After how many seconds of blocking the nth one came that waits. */
  static double arrived(int nth) {
    return nth < 2 ? 0.4 + nth : (nth - 1) * 60;
  }

  /**
   * What those had waited that the fare reload let go in a time, in s each: it is booked when their
   * statement ends.
   */
  List<Double> released(String engine, Instant from, Instant to) {
    double before = blocked(engine, from);
    if (before == 0 || blocked(engine, to) > 0) {
      return List.of();
    }
    return IntStream.range(0, waiting(before))
        .mapToObj(nth -> Math.max(0.1, before - arrived(nth)))
        .toList();
  }

  /** Sessions that somebody opened while trying something. */
  int idle(String engine, Instant at) {
    return engine.equals(WRITER) && holds(idle, idle.plus(Duration.ofMinutes(6)), at) ? 60 : 0;
  }

  /** Deadlocks from one moment on and before another. */
  int deadlocks(String engine, Instant from, Instant to) {
    return engine.equals(WRITER) && holds(from, to, deadlock) ? 1 : 0;
  }

  public Instant dropped() {
    return dropped;
  }

  public Instant deadlock() {
    return deadlock;
  }

  /** How fast what is stored grows: 1 as it is told in the demo. */
  double growth() {
    return story == Story.NONE ? 1 : story.strength();
  }

  /** How many days before the end of the story a moment lies. */
  double daysBefore(Instant at) {
    return seconds(at, end) / 86_400;
  }

  private static boolean holds(Instant from, Instant to, Instant at) {
    return !at.isBefore(from) && at.isBefore(to);
  }

  private static double seconds(Instant from, Instant to) {
    return Duration.between(from, to).toMillis() / 1000.0;
  }
}
