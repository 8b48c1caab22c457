package jamjar.standins.servers;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.OptionalDouble;
import java.util.function.UnaryOperator;

/**
 * What happened to Skerry Line's servers in the six weeks before the demo was opened first, and
 * goes on since: a pure function of that moment. Each incident lies on the newest fitting day at
 * least so many days before it.
 */
public final class Story {
  /** Nothing ever happens. */
  public static final Story NONE = new Story();

  public static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
  static final String SOUTHMOLE = "Southmole";
  public static final String LEAKING = "freight-2";
  private static final String RELEASED = "freight";

  /** It did not come back after a change, and is not there to this day. */
  public static final String GONE = "gate-4";

  /** The part of the old generation that the release with the leak keeps in a day. */
  public static final double LEAK_PER_DAY = 0.019;

  private static final double SLOWER = 1.9;

  /** So many times as many connections as there are would be held. */
  static final double EMPTIED = 1.6;

  private final boolean told;
  private final double strength;
  private final UnaryOperator<Instant> moved;
  private final Instant leakFrom;
  private final Instant leakTo;
  private final Instant slowerFrom;
  private final Instant goneFrom;
  private final Stretch emptyPools;
  private final Stretch maintenance;
  private final Stretch cutOff;

  /**
   * A stretch of time with its reason.
   *
   * @param site the site, or the instance, that it is about
   */
  public record Stretch(String what, String words, String site, Instant from, Duration lasts) {
    public Instant to() {
      return from.plus(lasts);
    }

    public boolean holds(Instant at) {
      return !at.isBefore(from) && at.isBefore(to());
    }
  }

  /** A moment that somebody marked. */
  public record Mark(String title, String note, String group, Instant at) {}

  /**
   * @param end when the demo was opened first
   */
  public Story(Instant end) {
    this(end, 1, UnaryOperator.identity());
  }

  /**
   * As above, told otherwise.
   *
   * @param strength how strong what happens is: 1 as told, ½ half of what it adds to the usual
   * @param moved where each that has a beginning and an end lies instead
   */
  public Story(Instant end, double strength, UnaryOperator<Instant> moved) {
    this.told = true;
    this.strength = strength;
    this.moved = moved;
    this.leakFrom = daysAgo(end, 20, LocalTime.of(11, 40));
    this.leakTo = daysAgo(end, 3, LocalTime.of(11, 0));
    // of the day before where that is to come
    this.slowerFrom = daysAgo(end, 0, LocalTime.of(6, 0));
    this.goneFrom = daysAgo(end, 3, LocalTime.of(14, 20));
    this.emptyPools =
        new Stretch(
            "incident",
            "bookingPool ran empty",
            "",
            moved.apply(newest(end, 12, DayOfWeek.SATURDAY, LocalTime.of(8, 30))),
            Duration.ofMinutes(40));
    this.maintenance =
        new Stretch(
            "maintenance",
            "Southmole: new switches",
            SOUTHMOLE,
            moved.apply(daysAgo(end, 6, LocalTime.of(14, 0))),
            Duration.ofHours(2));
    this.cutOff =
        new Stretch(
            "cut off",
            "no answer: the network to Southmole was cut",
            SOUTHMOLE,
            moved.apply(daysAgo(end, 5, LocalTime.of(19, 20))),
            Duration.ofMinutes(28));
  }

  private Story() {
    this.told = false;
    this.strength = 0;
    this.moved = UnaryOperator.identity();
    this.leakFrom = Instant.EPOCH;
    this.leakTo = Instant.EPOCH;
    this.slowerFrom = Instant.EPOCH;
    this.goneFrom = Instant.MAX;
    Stretch never = new Stretch("", "", "", Instant.EPOCH, Duration.ZERO);
    this.emptyPools = never;
    this.maintenance = never;
    this.cutOff = never;
  }

  /** How strong what happens is: 1 as it is told in the demo. */
  public double strength() {
    return strength;
  }

  /** Where what has a beginning and an end lies. */
  public Instant moved(Instant at) {
    return moved.apply(at);
  }

  /** Since when loyalty is slower. */
  public Instant slowerFrom() {
    return slowerFrom;
  }

  public Instant leakFrom() {
    return leakFrom;
  }

  /** The newest moment at that time of the day that is at least so many days before. */
  public static Instant daysAgo(Instant end, int least, LocalTime time) {
    ZonedDateTime at = end.atZone(ZONE).minusDays(least).with(time);
    return (at.isAfter(end.atZone(ZONE).minusDays(least)) ? at.minusDays(1) : at).toInstant();
  }

  private static Instant newest(Instant end, int least, DayOfWeek day, LocalTime time) {
    LocalDate date = daysAgo(end, least, time).atZone(ZONE).toLocalDate();
    while (date.getDayOfWeek() != day) {
      date = date.minusDays(1);
    }
    return date.atTime(time).atZone(ZONE).toInstant();
  }

  /**
   * Releases and changes: with one a leak began, with the next it ended, after another one is gone.
   */
  public List<Mark> marks() {
    return List.of(
        new Mark("release 4.8", "freight 4.8", RELEASED, leakFrom),
        new Mark("release 4.9", "freight 4.9, with a restart of all of them", RELEASED, leakTo),
        new Mark("gates 2.3", "a change of all gates, one after the other", "gates", goneFrom));
  }

  /** What is kept of the old generation where that is another share than usual. */
  OptionalDouble floor(Profile profile, Instant at) {
    if (!told || !profile.name().equals(LEAKING) || at.isBefore(leakFrom) || !at.isBefore(leakTo)) {
      return OptionalDouble.empty();
    }
    double days = Duration.between(leakFrom, at).toMinutes() / 1440.0;
    return OptionalDouble.of(profile.floor() + strength * LEAK_PER_DAY * days);
  }

  /** Whether a server began anew between two moments: with the release that ended the leak. */
  boolean restarts(Profile profile, Instant after, Instant until) {
    return told
        && profile.group().equals(RELEASED)
        && leakTo.isAfter(after)
        && !leakTo.isAfter(until);
  }

  /** In the check-in wave of a Saturday the booking pools run empty. */
  public Stretch emptyPools() {
    return emptyPools;
  }

  /** How many connections more than usual are held for long then, as a share of the pool. */
  double empties(Profile profile, Profile.Pool pool, Instant at) {
    boolean empties =
        told
            && profile.group().equals("booking")
            && pool.name().equals("bookingPool")
            && emptyPools.holds(at);
    return empties ? strength * EMPTIED : 0;
  }

  /** How many times as long as usual connections are held: loyalty is slower since this morning. */
  double hold(Profile profile, Profile.Pool pool, Instant at) {
    return told
            && profile.group().equals("booking")
            && pool.name().equals("loyaltyPool")
            && !at.isBefore(slowerFrom)
        ? 1 + strength * (SLOWER - 1)
        : 1;
  }

  /** Announced: the other site does nearly all of the work. */
  public Stretch maintenance() {
    return maintenance;
  }

  /** How much of its usual load a server has. */
  double load(Profile profile, Instant at) {
    if (!told || !maintenance.holds(at)) {
      return 1;
    }
    return profile.site().equals(SOUTHMOLE) ? 0.05 : 1.75;
  }

  /** Since when one is not there any more. */
  public Instant goneFrom() {
    return goneFrom;
  }

  /** Whether a server is not there. */
  boolean gone(Profile profile, Instant at) {
    return profile.name().equals(GONE) && !at.isBefore(goneFrom);
  }

  /** Nothing came from one site. */
  public Stretch cutOff() {
    return cutOff;
  }

  /** Whether a server could not be read. */
  public boolean cutOff(Profile profile, Instant at) {
    return told && profile.site().equals(SOUTHMOLE) && cutOff.holds(at);
  }
}
