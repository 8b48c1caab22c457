package jamjar.server.limits;

import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.limit.Docket;
import jamjar.core.limit.LimitState;
import jamjar.core.reading.SeriesKey;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;

/** What was read and judged of an instance before it is judged from here. */
interface Past {
  /** The states that are not simply calm. */
  Map<Docket.Key, LimitState> states();

  /** The series of the last reading. */
  Map<Integer, SeriesKey> present(Pace pace);

  /** What a series is of; empty where there is none of that number. */
  Optional<SeriesKey> key(int series);

  /** The numbers of series that are not read but made of others, in their order. */
  int[] numbers(List<SeriesKey> series);

  /**
   * When a series was last more than nothing, epoch ms; where it never was, since when it is read,
   * as far as looked back.
   */
  OptionalLong happened(int series);

  /** When the last reading was taken, epoch ms. */
  Optional<Long> lastAt(Pace pace);

  /**
   * Lets a docket take up readings that belong to edges not judged yet.
   *
   * @param last when the last one was taken, epoch ms
   * @param back how far back they may lie, ms
   */
  void gather(Pace pace, long last, long back, Docket docket, Recipe recipe);

  /** There was nothing: what is replayed begins calm. */
  static Past none(Past numbers) {
    return new Past() {
      @Override
      public Map<Docket.Key, LimitState> states() {
        return new HashMap<>();
      }

      @Override
      public Map<Integer, SeriesKey> present(Pace pace) {
        return Map.of();
      }

      @Override
      public Optional<SeriesKey> key(int series) {
        return numbers.key(series);
      }

      @Override
      public int[] numbers(List<SeriesKey> series) {
        return numbers.numbers(series);
      }

      @Override
      public OptionalLong happened(int series) {
        return OptionalLong.empty();
      }

      @Override
      public Optional<Long> lastAt(Pace pace) {
        return Optional.empty();
      }

      @Override
      public void gather(Pace pace, long last, long back, Docket docket, Recipe recipe) {
        // nothing was read
      }
    };
  }
}
