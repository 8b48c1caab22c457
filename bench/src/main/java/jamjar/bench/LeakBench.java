package jamjar.bench;

import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.heap.Leak;
import jamjar.core.heap.Leak.Verdict;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.standins.servers.Past;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Skerry;
import jamjar.standins.servers.Story;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * Who is said to leak over six weeks of the demo's servers, on several seeds: as often as somebody
 * would look, at the end of each day, and by what is looked at then: the lowest floor of each of
 * the last whole days.
 */
final class LeakBench {
  private static final int DAYS = 42;
  private static final int SEEDS = 5;
  private static final int EVERY_S = 600;
  private static final double WALL = 100;
  private static final double HOURS = 24;

  /** A climb without noise has a range without width: nobody reads it closer than that. */
  private static final double ABOUT = 0.01;

  private static final SeriesKey FLOOR = SeriesKey.of("old_generation.floor");
  private static final SeriesKey MAX = SeriesKey.of("old_generation.max");
  private static final Instant OPENED = Instant.parse("2026-11-27T09:00:00Z");

  private static final LocalDate FIRST = OPENED.atZone(Story.ZONE).toLocalDate().minusDays(DAYS);
  private static final String LEAKED = "release 4.8";

  private LeakBench() {}

  static void run(String[] options) {
    Story story = new Story(OPENED);
    for (int seed = 1; seed <= SEEDS; seed++) {
      int accused = 0;
      int looks = 0;
      String leaking = "";
      for (Profile profile : Skerry.servers()) {
        double[] days = days(profile, story, seed);
        Found found = found(days);
        if (profile.name().equals(Story.LEAKING)) {
          leaking =
              String.format(
                  Locale.ROOT,
                  "told from day %d after the release, on %d days, %d of them with a range that holds"
                      + " the truth",
                  found.first() - released(story),
                  found.told(),
                  found.held());
        } else {
          accused += found.told();
          looks += days.length;
        }
      }
      System.out.printf(
          Locale.ROOT,
          "bench leak: seed %d: %s %s; of the others on %d of %d days%n",
          seed,
          Story.LEAKING,
          leaking,
          accused,
          looks);
    }
  }

  /**
   * @param first the first day at whose end it is told; -1 for none
   * @param told at the end of how many days
   * @param held with a range in which the truth lies
   */
  private record Found(int first, int told, int held) {}

  private static Found found(double[] days) {
    int first = -1;
    int told = 0;
    int held = 0;
    for (int day = 0; day < days.length; day++) {
      // of history nobody told when it was started
      int from = Math.max(0, day + 1 - Leak.MOST_DAYS);
      double[] floors = Arrays.copyOfRange(days, from, day + 1);
      Leak leak = Leak.mostEven(floors, WALL);
      if (leak.verdict() == Verdict.CLIMBS) {
        first = first < 0 ? day : first;
        told++;
        double left = (WALL - floors[floors.length - 1]) / (WALL * Story.LEAK_PER_DAY) * HOURS;
        boolean holds =
            leak.hoursLeast() * (1 - ABOUT) <= left && leak.hoursMost() * (1 + ABOUT) >= left;
        held += holds ? 1 : 0;
      }
    }
    return new Found(first, told, held);
  }

  /** The place of the day of the release with the leak. */
  private static long released(Story story) {
    return story.marks().stream()
        .filter(mark -> mark.title().equals(LEAKED))
        .map(mark -> mark.at().atZone(Story.ZONE).toLocalDate())
        .mapToLong(day -> ChronoUnit.DAYS.between(FIRST, day))
        .findFirst()
        .orElseThrow();
  }

  private static double[] days(Profile profile, Story story, int seed) {
    LoadedRecipe recipe = RecipeFile.shipped(profile.recipe());
    Past past = new Past(profile, recipe, story, seed + profile.name().hashCode());
    double[] days = new double[DAYS];
    List<Integer> places = new ArrayList<>();
    for (int i = 0; i < DAYS; i++) {
      places.add(i);
    }
    places.parallelStream()
        .forEach(
            i -> {
              ZonedDateTime begin = FIRST.plusDays(i).atStartOfDay(Story.ZONE);
              double[] least = {Double.NaN};
              past.read(
                  begin.toInstant(),
                  begin.plusDays(1).toInstant(),
                  at -> EVERY_S,
                  (pace, interval, step) -> {
                    Reading reading = step.reading();
                    boolean of =
                        !reading.at().isBefore(begin.toInstant())
                            && reading.at().isBefore(begin.plusDays(1).toInstant());
                    double share = WALL * reading.value(FLOOR) / reading.value(MAX);
                    if (of && !Double.isNaN(share)) {
                      least[0] = Double.isNaN(least[0]) ? share : Math.min(least[0], share);
                    }
                  });
              days[i] = least[0];
            });
    return days;
  }
}
