package jamjar.bench;

import jamjar.bench.SignalGrid.Ticks;
import jamjar.bench.Skerries.One;
import jamjar.core.forecast.Peaks;
import jamjar.core.group.HeadCount;
import jamjar.core.group.Member;
import jamjar.core.group.Member.Standing;
import jamjar.core.group.SiteCount;
import jamjar.core.heap.Leak;
import jamjar.core.limit.Condition;
import jamjar.core.limit.PastJudgings.Alert;
import jamjar.core.limit.Severity;
import jamjar.core.reading.SeriesKey;
import jamjar.standins.history.EngineStory;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Skerry;
import jamjar.standins.servers.Story;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/**
 * What the shipped limits would have told of six weeks of the demo's estate, with what happened in
 * them moved by hours and at half strength: what of it was told in time, and how much else was
 * told. The first seed is the demo's own story.
 */
final class SignalBench {
  private static final int HOURS = 5;

  /** As often as it is read live; more seldom it is sooner told. */
  private static final int EVERY_S = 10;

  /** A silence is told with the reading after the one that did not come, and judged by then. */
  private static final long TOLD_AFTER = 15_000;

  private static final Duration AROUND = Duration.ofMinutes(30);

  /** A tablespace is full where it is as much greater as it would be in forty days. */
  private static final double CAPACITY = 1 + 0.011 * 40;

  private static final double WITHIN_DAYS = 90;
  private static final int NIGHTS = 3;

  private SignalBench() {}

  static void run(String[] options) throws Exception {
    int first = options.length == 0 ? 2 : Integer.parseInt(options[0]);
    int last = options.length == 0 ? 6 : options.length == 1 ? first : Integer.parseInt(options[1]);
    Ticks ticks = new Ticks(options.length < 3 ? EVERY_S : Integer.parseInt(options[2]));
    for (int seed = first; seed <= last; seed++) {
      new Season(seed, ticks).tell();
    }
  }

  /** An alert that would have risen. */
  record Risen(One of, SeriesKey key, Condition condition, Alert alert) {
    boolean is(String name, String... counters) {
      return of.name().startsWith(name)
          && Arrays.stream(counters).anyMatch(key.counter()::startsWith);
    }

    boolean pool(String name) {
      return is("booking-", "pool.") && key.labels().containsValue(name);
    }

    boolean plain() {
      return condition == Condition.ABOVE || condition == Condition.BELOW;
    }
  }

  /**
   * Something that happens.
   *
   * @param of which alerts tell of it
   */
  record Incident(String what, Instant from, Instant to, Duration within, Predicate<Risen> of) {
    /** Ms from its begin until it is told; −1 where it is not. */
    long told(List<Risen> all) {
      return all.stream()
          .filter(of)
          .mapToLong(risen -> risen.alert().rose() - from.toEpochMilli())
          .filter(after -> after >= 0 && after <= Duration.between(from, to).toMillis())
          .min()
          .orElse(-1);
    }

    boolean touches(Risen risen) {
      return risen.alert().rose() >= from.minusSeconds(60).toEpochMilli()
          && risen.alert().since() <= to.plus(AROUND).toEpochMilli();
    }
  }

  /** Six weeks of one seed. */
  private static final class Season {
    private final int seed;
    private final Ticks ticks;
    private final Story story;
    private final EngineStory engines;
    private final List<Risen> risen = new ArrayList<>();
    private final Map<String, Boolean[]> read = new HashMap<>();
    private final List<String> outcomes = new ArrayList<>();
    private int caught;

    Season(int seed, Ticks ticks) {
      this.seed = seed;
      this.ticks = ticks;
      UnaryOperator<Instant> moved =
          at ->
              at.plus(
                  Duration.ofMinutes(
                      new SplittableRandom(seed * 7919L + at.getEpochSecond())
                          .nextInt(-60 * HOURS, 60 * HOURS)));
      this.story = seed == 1 ? new Story(Skerries.OPENED) : new Story(Skerries.OPENED, 0.5, moved);
      this.engines = new EngineStory(story, Skerries.OPENED);
    }

    void tell() throws Exception {
      long began = System.nanoTime();
      double[] floors = {};
      double[] sizes = {};
      for (One one : Skerries.all(story, seed)) {
        SignalGrid grid = SignalGrid.read(one, ticks, day -> true);
        read.put(one.name(), grid.read);
        risen.addAll(judged(one, grid));
        if (one.name().equals(Story.LEAKING)) {
          floors = grid.days("old_generation.floor_share", Math::min);
        }
        if (one.name().equals(EngineStory.WRITER)) {
          sizes = grid.days("size.database", Math::max);
        }
      }
      List<Incident> incidents = incidents(story, engines);
      incidents.forEach(this::look);
      leak(floors);
      tablespace(sizes);
      cutOff();
      gone();
      maintenance();
      noise(incidents, (System.nanoTime() - began) / 1e9);
    }

    private void outcome(String what, boolean inTime, String words) {
      caught += inTime ? 1 : 0;
      outcomes.add(
          String.format(Locale.ROOT, "    %-7s %s: %s", inTime ? "caught" : "MISSED", what, words));
    }

    private void look(Incident incident) {
      long after = incident.told(risen);
      boolean inTime = after >= 0 && after <= incident.within().toMillis();
      boolean plain =
          risen.stream().filter(incident.of()).filter(Risen::plain).anyMatch(incident::touches);
      outcome(
          incident.what(),
          inTime,
          (after < 0 ? "not told" : "told after " + after / 1000 + " s")
              + " (must "
              + incident.within().toSeconds()
              + ")"
              + (plain ? "" : ", by its normal alone"));
    }

    /** The verdict on the heap, as somebody would look at the end of each day. */
    private void leak(double[] floors) {
      int released = day(story.leakFrom());
      int first = -1;
      for (int day = 0; day < floors.length && first < 0; day++) {
        double[] known = Arrays.copyOfRange(floors, Math.max(0, day + 1 - Leak.MOST_DAYS), day + 1);
        if (day >= released && Leak.mostEven(known, 100).verdict() == Leak.Verdict.CLIMBS) {
          first = day;
        }
      }
      int after = first - released;
      outcome(
          "heap floor of freight-2 climbs",
          first >= 0 && after <= 4,
          first < 0 ? "no verdict" : "verdict on day " + after + " (must 4)");
    }

    private void tablespace(double[] sizes) {
      double capacity = CAPACITY * sizes[sizes.length - 1];
      int nights = 0;
      double middle = Double.NaN;
      for (int back = NIGHTS - 1; back >= 0; back--) {
        middle = Peaks.of(Arrays.copyOf(sizes, sizes.length - back), capacity).middle();
        nights += middle <= WITHIN_DAYS ? 1 : 0;
      }
      outcome(
          "tablespace fills",
          nights == NIGHTS,
          String.format(
              Locale.ROOT, "%d nights of 3 say within 90 days, the last in %.0f", nights, middle));
    }

    private static int day(Instant at) {
      return (int) Duration.between(Skerries.FROM, at).toDays();
    }

    /** Who is silent at a moment: whose last reading did not come. */
    private List<Member> members(String site, String group, int i) {
      List<Member> members = new ArrayList<>();
      for (Profile profile : Skerry.servers()) {
        boolean wanted = profile.site().equals(site) || profile.group().equals(group);
        if (wanted) {
          Boolean[] here = read.get(profile.name());
          int since = i;
          while (since > 0 && !here[since]) {
            since--;
          }
          members.add(
              new Member(
                  profile.name(),
                  profile.group(),
                  profile.site(),
                  here[i] ? Standing.ANSWERS : Standing.SILENT,
                  ticks.at(since + 1)));
        }
      }
      return members;
    }

    private void cutOff() {
      Story.Stretch cut = story.cutOff();
      int first = ticks.place(cut.from().toEpochMilli());
      int i = first;
      while (i < read.get(Story.GONE).length
          && !SiteCount.of(cut.site(), members(cut.site(), "", i)).unreachable()) {
        i++;
      }
      long after = ticks.at(i) + TOLD_AFTER - cut.from().toEpochMilli();
      outcome("Southmole cut off", after <= 60_000, "told after " + after / 1000 + " s (must 60)");
    }

    private void gone() {
      int first = ticks.place(story.goneFrom().toEpochMilli());
      int i = first;
      while (i < read.get(Story.GONE).length - 1
          && HeadCount.of("gates", 4, members("", "gates", i), List.of(), ticks.at(i)).missing()
              == 0) {
        i++;
      }
      HeadCount count = HeadCount.of("gates", 4, members("", "gates", i), List.of(), ticks.at(i));
      long after = ticks.at(i) + TOLD_AFTER - story.goneFrom().toEpochMilli();
      outcome(
          "gate-4 missing",
          after <= 180_000 && count.away().equals(List.of(Story.GONE)),
          "told after " + after / 1000 + " s (must 180): " + count.words());
    }

    private boolean isMuted(Risen one) {
      Story.Stretch works = story.maintenance();
      return one.of().site().equals(works.site())
          && works.holds(Instant.ofEpochMilli(one.alert().rose()))
          && one.alert().until() <= works.to().toEpochMilli();
    }

    private void maintenance() {
      Story.Stretch works = story.maintenance();
      List<Risen> told =
          risen.stream()
              .filter(one -> works.holds(Instant.ofEpochMilli(one.alert().rose())))
              .filter(one -> !isMuted(one))
              .toList();
      outcome(
          "maintenance of Southmole",
          told.isEmpty(),
          told.size() + " told while it lasted (must 0)" + words(told));
    }

    private static String words(List<Risen> some) {
      return some.stream()
          .map(one -> " " + one.of().name() + " " + one.key().counter())
          .distinct()
          .limit(4)
          .collect(Collectors.joining(","));
    }

    private void noise(List<Incident> incidents, double took) {
      Story.Stretch works = story.maintenance();
      List<Risen> else_ =
          risen.stream()
              .filter(one -> !isMuted(one))
              .filter(one -> incidents.stream().noneMatch(i -> i.of().test(one) && i.touches(one)))
              .filter(
                  one -> incidents.stream().limit(2).noneMatch(incident -> incident.touches(one)))
              .filter(
                  one -> !one.of().name().equals(Story.LEAKING) || !one.is("", "old_generation"))
              .filter(one -> !works.holds(Instant.ofEpochMilli(one.alert().rose())))
              .toList();
      long critical =
          else_.stream().filter(one -> one.alert().severity() == Severity.CRITICAL).count();
      long warnings = else_.size() - critical;
      System.out.printf(
          Locale.ROOT,
          "bench signal: seed %d%s: %d of 10 caught in time (must 9); otherwise %.2f warnings a day"
              + " (must 2) and %.2f critical a week (must 1) over the estate; %d alerts in all; %.0f s%n",
          seed,
          seed == 1 ? ", as told" : ", moved and at half strength",
          caught,
          warnings / (double) Skerries.DAYS,
          critical / (double) SignalGrid.WEEKS,
          risen.size(),
          took);
      outcomes.forEach(System.out::println);
      Map<String, Long> by = new TreeMap<>();
      else_.forEach(
          one ->
              by.merge(
                  one.key().counter()
                      + " "
                      + one.condition().words()
                      + ", "
                      + one.of().name().replaceAll("-\\d$", ""),
                  1L,
                  Long::sum));
      by.entrySet().stream()
          .sorted(Map.Entry.comparingByValue(Comparator.reverseOrder()))
          .limit(8)
          .forEach(e -> System.out.printf("    else %4d %s%n", e.getValue(), e.getKey()));
    }
  }

  /** What alerts tell of. */
  static List<Incident> incidents(Story story, EngineStory engines) {
    String writer = EngineStory.WRITER;
    Story.Stretch pools = story.emptyPools();
    Instant slower = story.slowerFrom();
    return List.of(
        new Incident(
            "fare reload blocked",
            engines.reload().from(),
            engines.reload().to(),
            Duration.ofMinutes(3),
            r -> r.is(writer, "sessions.", "locks.")),
        new Incident(
            "bookingPool empty",
            pools.from(),
            pools.to(),
            Duration.ofMinutes(5),
            r -> r.pool("bookingPool")),
        new Incident(
            "index dropped",
            engines.dropped(),
            engines.marks().get(1).at(),
            Duration.ofMinutes(15),
            r -> r.is(EngineStory.FREIGHT, "statement", "blocks.", "rows.")),
        new Incident(
            "deadlock",
            engines.deadlock(),
            engines.deadlock().plusSeconds(300),
            Duration.ofMinutes(1),
            r -> r.is(writer, "deadlocks")),
        new Incident(
            "loyalty slower",
            slower,
            Skerries.OPENED,
            Duration.ofMinutes(30),
            r -> r.is(writer, "statement") || r.pool("loyaltyPool")));
  }

  /** What its limits would have told. */
  static List<Risen> judged(One one, SignalGrid grid) {
    List<Risen> found =
        grid.lines.values().parallelStream()
            .flatMap(
                line ->
                    line.inForce.stream()
                        .flatMap(
                            inForce ->
                                line.judgings(inForce).alerts(inForce.limit()).stream()
                                    .map(
                                        alert ->
                                            new Risen(
                                                one,
                                                line.key,
                                                inForce.limit().condition(),
                                                alert))))
            .toList();
    return found;
  }
}
