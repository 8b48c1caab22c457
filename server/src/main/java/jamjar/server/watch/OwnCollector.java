package jamjar.server.watch;

import jamjar.collect.ByHand;
import jamjar.collect.CollectFailed;
import jamjar.collect.Collector;
import jamjar.core.counter.Pace;
import jamjar.core.counter.WhyNothing;
import jamjar.core.group.HeadCount;
import jamjar.core.group.SiteCount;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import jamjar.core.threads.ThreadDump;
import jamjar.server.heads.HeadCounts;
import jamjar.server.heads.Heads;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Reads Jam Jar itself: its process like any JVM, and who of those it watches is there. */
final class OwnCollector implements Collector {
  private static final String COUNTED = "heads";
  private static final String EXPECTED = "heads.expected";
  private static final String PRESENT = "heads.present";
  private static final String EXTRA = "heads.extra";
  private static final List<String> OF_GROUPS = List.of(EXPECTED, PRESENT, Heads.MISSING, EXTRA);

  private final Collector process;
  private final HeadCounts heads;
  private Map<String, String> names = Map.of();

  private OwnCollector(Collector process, HeadCounts heads) {
    this.process = process;
    this.heads = heads;
  }

  static Collector of(Collector process, Pace pace, HeadCounts heads) {
    return pace == Pace.FAST ? new OwnCollector(process, heads) : process;
  }

  @Override
  public RawReading read() throws CollectFailed {
    RawReading read = process.read();
    HeadCounts.Now now = heads.now();
    List<RawValue> values = new ArrayList<>(read.values());
    Map<String, String> told = new HashMap<>();
    for (HeadCount count : now.groups()) {
      Map<String, String> of = Map.of(Heads.GROUP, count.group());
      add(values, EXPECTED, of, count.expected());
      if (count.expected() > 0) {
        add(values, PRESENT, of, count.present());
      }
      add(values, Heads.MISSING, of, count.missing());
      add(values, EXTRA, of, count.extra());
      if (count.missing() > 0 || count.extra() > 0) {
        told.put(Heads.fact(of), count.words());
      }
    }
    // what is not known now is not gone for good
    for (String group : now.notKnown()) {
      Map<String, String> of = Map.of(Heads.GROUP, group);
      for (String counter : OF_GROUPS) {
        values.add(new RawValue.Nothing(new SeriesKey(counter, of), WhyNothing.NOT_YET_KNOWN));
      }
    }
    for (SiteCount count : now.sites()) {
      Map<String, String> of = Map.of(Heads.SITE, count.site());
      add(values, Heads.SILENT_SHARE, of, 100 * count.share());
      if (count.unreachable()) {
        told.put(Heads.fact(of), count.words());
      }
    }
    names = Map.copyOf(told);
    Set<String> complete = new HashSet<>(read.complete());
    complete.add(COUNTED);
    return new RawReading(
        read.at(),
        read.sourceMicros(),
        read.monotonicNanos(),
        read.start(),
        complete,
        read.failed(),
        values);
  }

  private static void add(
      List<RawValue> values, String counter, Map<String, String> of, double value) {
    values.add(new RawValue.Level(new SeriesKey(counter, of), value));
  }

  @Override
  public void dropped() {
    process.dropped();
  }

  @Override
  public Optional<ThreadDump> dump(String why) {
    return process.dump(why);
  }

  @Override
  public Map<String, String> facts() {
    Map<String, String> all = new HashMap<>(process.facts());
    all.putAll(names);
    return all;
  }

  @Override
  public Optional<ByHand> byHand(SeriesKey series) {
    return process.byHand(series);
  }

  @Override
  public double roundTrip() {
    return process.roundTrip();
  }

  @Override
  public void close() {
    process.close();
  }
}
