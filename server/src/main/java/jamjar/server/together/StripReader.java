package jamjar.server.together;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.counter.CounterDefinition;
import jamjar.server.normals.NormalsService;
import jamjar.server.problems.OneAtATime;
import jamjar.server.readings.SeriesSamples;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.LongFunction;
import org.springframework.stereotype.Component;

/**
 * Reads one counter of many instances through time; of one that has several labels and stands for
 * none, in each step that which is farthest from its normal.
 */
@Component
class StripReader {
  private final Many many;
  private final NormalsService normals;
  private final SeriesSamples samples;
  private final Clock clock;

  /** It reads one counter of all there are: one after the other. */
  private final OneAtATime one = new OneAtATime("Others just look at as many.");

  StripReader(Many many, NormalsService normals, SeriesSamples samples, Clock clock) {
    this.many = many;
    this.normals = normals;
    this.samples = samples;
    this.clock = clock;
  }

  /**
   * @param from epoch ms
   * @param most so many steps, of whole minutes each
   */
  TogetherView.Strip read(
      List<InstanceRow> instances, CounterDefinition counter, long from, long to, int most) {
    long minutes = Math.max(1, (to - from) / Timeline.MINUTE);
    long width = (minutes + most - 1) / most * Timeline.MINUTE;
    long begin = Math.floorDiv(from, width) * width;
    int steps = (int) Math.max(0, (Math.min(to, clock.millis()) - begin + width - 1) / width);
    return one.answer(
        () ->
            new TogetherView.Strip(
                counter.key(),
                counter.title(),
                counter.unit(),
                begin,
                width,
                instances.parallelStream()
                    .filter(row -> many.counter(row, counter.key()).isPresent())
                    .map(row -> through(row, counter.key(), begin, width, steps))
                    .toList()));
  }

  private TogetherView.Through through(
      InstanceRow instance, String key, long from, long width, int steps) {
    Farthest farthest = new Farthest(from, width, steps);
    many.counter(instance, key)
        .ifPresent(
            counter -> {
              List<SeriesRow> series =
                  many.standing(instance, List.of(key)).getOrDefault(key, List.of());
              Map<Integer, double[]> means = new HashMap<>();
              samples.means(
                  instance.id(),
                  series,
                  from,
                  width,
                  steps,
                  (row, of, values) -> means.put(row.id(), values));
              means.values().forEach(farthest::there);
              normals.within(
                  instance.id(),
                  means.keySet().stream().mapToInt(Integer::intValue).toArray(),
                  from,
                  from + steps * width,
                  (id, normal) -> farthest.add(counter, means.get(id), normal));
            });
    return new TogetherView.Through(
        instance.id(), instance.name(), told(farthest.mean), told(farthest.distance));
  }

  private static List<Double> told(double[] values) {
    return Arrays.stream(values).mapToObj(value -> known(value)).toList();
  }

  /** In each step what is farthest from its normal; without a normal, what is there at all. */
  private static final class Farthest {
    private final long from;
    private final long width;
    private final double[] mean;
    private final double[] distance;

    Farthest(long from, long width, int steps) {
      this.from = from;
      this.width = width;
      this.mean = new double[steps];
      this.distance = new double[steps];
      Arrays.fill(mean, Double.NaN);
      Arrays.fill(distance, Double.NaN);
    }

    void there(double[] values) {
      for (int i = 0; i < mean.length; i++) {
        if (Double.isNaN(mean[i])) {
          mean[i] = values[i];
        }
      }
    }

    void add(CounterDefinition counter, double[] values, LongFunction<Normal> normal) {
      for (int i = 0; i < mean.length; i++) {
        double far =
            normal
                .apply(from + i * width)
                .distance(values[i], counter.matters(), counter.resolution());
        if (!Double.isNaN(far)
            && (Double.isNaN(distance[i]) || Math.abs(far) > Math.abs(distance[i]))) {
          mean[i] = values[i];
          distance[i] = far;
        }
      }
    }
  }
}
