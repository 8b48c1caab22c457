package jamjar.store.readings;

import jamjar.core.counter.WhyNothing;
import jamjar.store.series.NothingSpan;
import jamjar.store.series.SeriesMapper;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Why series have nothing, as spans: written only when the reason changes. */
final class WhySpans {
  private final SeriesMapper mapper;
  private final Map<Integer, Map<Integer, WhyNothing>> lasting = new ConcurrentHashMap<>();

  WhySpans(SeriesMapper mapper) {
    this.mapper = mapper;
  }

  /** Some changes, to be taken for true once they are committed. */
  final class Changes {
    private final SeriesMapper to;
    private final Map<Integer, Map<Integer, WhyNothing>> changed = new HashMap<>();

    private Changes(SeriesMapper to) {
      this.to = to;
    }

    /**
     * What a reading says.
     *
     * @param gone series that it retires
     */
    void note(LaidOut reading, int[] series, int[] gone) {
      int instance = reading.row().instance();
      Instant at = reading.row().at();
      Map<Integer, WhyNothing> now =
          changed.computeIfAbsent(
              instance, id -> new HashMap<>(lasting.computeIfAbsent(id, WhySpans.this::load)));
      for (int i = 0; i < series.length; i++) {
        int why = reading.why()[i];
        if (why == 0 && now.isEmpty()) {
          // as mostly
          continue;
        }
        note(series[i], why == 0 ? null : WhyNothing.values()[why - 1], at, now);
      }
      for (int id : gone) {
        note(id, WhyNothing.RETIRED, at, now);
      }
    }

    private void note(int id, WhyNothing why, Instant at, Map<Integer, WhyNothing> now) {
      WhyNothing then = now.get(id);
      if (why == then) {
        return;
      }
      if (then != null) {
        to.endNothing(id, at);
        now.remove(id);
      }
      if (why != null) {
        to.beginNothing(new NothingSpan(id, at, null, why.name()));
        now.put(id, why);
      }
    }

    void committed() {
      lasting.putAll(changed);
    }
  }

  Changes changes(SeriesMapper batch) {
    return new Changes(batch);
  }

  /** What was written may not be there. */
  void forget() {
    lasting.clear();
  }

  private Map<Integer, WhyNothing> load(int instance) {
    Map<Integer, WhyNothing> loaded = new HashMap<>();
    for (NothingSpan span : mapper.lasting(instance)) {
      loaded.put(span.series(), WhyNothing.valueOf(span.why()));
    }
    return loaded;
  }
}
