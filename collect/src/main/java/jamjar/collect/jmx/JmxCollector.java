package jamjar.collect.jmx;

import jamjar.collect.Bounds;
import jamjar.collect.ByHand;
import jamjar.collect.CollectFailed;
import jamjar.collect.Collector;
import jamjar.collect.Target;
import jamjar.collect.recipe.BeanQuery;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.tls.Expiry;
import jamjar.core.counter.Pace;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import jamjar.core.threads.ThreadDump;
import java.io.IOException;
import java.net.SocketTimeoutException;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.management.InstanceNotFoundException;
import javax.management.JMException;
import javax.management.JMRuntimeException;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;
import javax.management.remote.JMXConnector;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads the managed beans of a JVM as its recipe says. One connection is kept; one call for each
 * bean; the JVM's own clock tells how long a reading covers.
 */
public final class JmxCollector implements Collector {
  private static final Logger LOG = LoggerFactory.getLogger(JmxCollector.class);
  private static final String OWN = "own";

  /** All calls of a reading together: each has a time-out of its own, but they add up. */
  private static final long LONGEST_NANOS = 60_000_000_000L;

  private final Target target;
  private final BeanReader reader;
  private final Troubled troubled;
  private final Specials specials;
  private final BeanNames names;
  private final List<BeanQuery> queries;
  private final Map<String, String> groups;
  private final boolean countsItself;
  private final boolean looksAtCertificate;
  private final Expiry expiry;
  private final Clock clock;
  private JMXConnector connector;
  private MBeanServerConnection server;
  private Map<String, String> facts = Map.of();
  private final Leading leading = new Leading();
  private long start;
  private double roundTrip = Double.NaN;
  private String leftOut = "";

  private JmxCollector(Target target, LoadedRecipe recipe, Pace pace, Clock clock) {
    Map<String, Pace> paceOf = recipe.recipe().paceOf();
    this.target = target;
    this.queries = recipe.beans().stream().filter(q -> paceOf.get(q.group()) == pace).toList();
    this.groups = groups(queries);
    this.troubled = new Troubled(target);
    this.reader = new BeanReader(recipe.recipe(), troubled);
    this.specials = new Specials(target);
    this.names = new BeanNames(queries);
    this.countsItself = paceOf.get(OWN) == pace;
    this.looksAtCertificate = paceOf.get(Expiry.GROUP) == pace;
    this.expiry = new Expiry(target, socket -> {}, clock);
    this.clock = clock;
  }

  /** What of a recipe is read at one pace, over a connection of its own. */
  public static JmxCollector of(Target target, LoadedRecipe recipe, Pace pace, Clock clock) {
    return new JmxCollector(target, recipe, pace, clock);
  }

  /** Of this very process: no connection, and nothing to sign in to. */
  public static JmxCollector own(
      MBeanServerConnection here, LoadedRecipe recipe, Pace pace, Clock clock) {
    return of(LocalJvms.THIS, here, recipe, pace, clock);
  }

  /**
   * Over a connection that is there.
   *
   * @param here where a target as told would be read
   */
  public static JmxCollector of(
      Target target, MBeanServerConnection here, LoadedRecipe recipe, Pace pace, Clock clock) {
    JmxCollector collector = new JmxCollector(target, recipe, pace, clock);
    collector.server = here;
    return collector;
  }

  @Override
  public RawReading read() throws CollectFailed {
    // a call may open a connection anew
    try (TlsOfTarget about = TlsOfTarget.of(target)) {
      connect();
      return take();
    } catch (IOException | RuntimeException | JMException e) {
      close();
      throw new CollectFailed(JmxRefusals.of(target, e), e);
    }
  }

  @Override
  public void dropped() {
    specials.forget();
  }

  @Override
  public Optional<ThreadDump> dump(String why) {
    if (server == null) {
      return Optional.empty();
    }
    try (TlsOfTarget about = TlsOfTarget.of(target)) {
      Instant at = clock.instant().truncatedTo(ChronoUnit.MILLIS);
      return Optional.of(Dumps.of(server, at, why));
    } catch (IOException e) {
      // what is under way on it is not known: the next reading connects anew
      close();
      LOG.warn("event=threads-not-read target={} why=\"{}\"", target.address(), e.toString());
    } catch (RuntimeException | JMException e) {
      LOG.warn("event=threads-not-read target={} why=\"{}\"", target.address(), e.toString());
    }
    return Optional.empty();
  }

  @Override
  public Map<String, String> facts() {
    Map<String, String> troubles = troubled.told();
    Map<String, String> all = new HashMap<>(facts);
    all.putAll(leading.told());
    troubles.forEach((what, why) -> all.put(UNREAD + what, why));
    if (!leftOut.isEmpty()) {
      all.put(EXCESS, leftOut);
    }
    return all;
  }

  @Override
  public Optional<ByHand> byHand(SeriesKey series) {
    return AttributesByHand.of(series, names.known());
  }

  @Override
  public double roundTrip() {
    return roundTrip;
  }

  @Override
  public void close() {
    if (connector != null) {
      JmxConnector.close(connector);
      connector = null;
      server = null;
    }
  }

  private void connect() throws IOException, JMException, CollectFailed {
    if (server == null) {
      connector = JmxConnector.open(target);
      server = connector.getMBeanServerConnection();
      names.forget();
      specials.forget();
      start = 0;
    }
    if (start == 0) {
      start = RuntimeFacts.start(server);
      facts = RuntimeFacts.of(server);
      leading.of(start);
    }
  }

  private RawReading take() throws IOException, JMException {
    long began = System.nanoTime();
    Instant at = clock.instant();
    long up = RuntimeFacts.up(server);
    roundTrip = (System.nanoTime() - began) / 1e9;
    List<RawValue> values = new ArrayList<>();
    Map<String, WhyNothing> failed = new HashMap<>();
    int calls = 2;
    boolean failing = false;
    for (Map.Entry<BeanQuery, List<ObjectName>> entry : names.in(server).entrySet()) {
      BeanQuery query = entry.getKey();
      if (entry.getValue().isEmpty()) {
        reader.noneThere(query, values);
      }
      calls += leading.look(server, query, entry.getValue());
      for (ObjectName name : entry.getValue()) {
        if (System.nanoTime() - began > LONGEST_NANOS) {
          throw new SocketTimeoutException(
              "a reading of more than " + LONGEST_NANOS / 1_000_000_000 + " s is given up");
        }
        try {
          calls++;
          if (query.special().isEmpty()) {
            reader.read(server, query, name, values);
          } else {
            calls += specials.read(server, query, name, at, values);
          }
        } catch (IOException e) {
          // one attribute costs its own counter; a second bean that does not answer is the target
          if (!query.special().isEmpty() || failing || !troubled.isLookedAt(name)) {
            throw e;
          }
          failing = true;
          reader.nothing(query, name, values);
        } catch (InstanceNotFoundException e) {
          names.forget();
        } catch (SecurityException e) {
          failed.put(query.group(), WhyNothing.NOT_PERMITTED);
        } catch (JMException | JMRuntimeException e) {
          // one bean that can't answer leaves the others alone
          failed.put(query.group(), WhyNothing.NONE_THERE);
        }
      }
    }
    leftOut =
        Stream.of(Bounds.cut(values), names.beyond())
            .filter(words -> !words.isEmpty())
            .collect(Collectors.joining("; "));
    Set<String> complete = new HashSet<>();
    queries.forEach(query -> complete.add(query.group()));
    complete.removeAll(failed.keySet());
    values.removeIf(value -> failed.containsKey(groups.get(value.series().counter())));
    if (looksAtCertificate) {
      complete.add(Expiry.GROUP);
      expiry.value().ifPresent(values::add);
    }
    if (countsItself) {
      complete.add(OWN);
      values.add(
          new RawValue.Level(SeriesKey.of("own.reading_time"), (System.nanoTime() - began) / 1e9));
      values.add(new RawValue.Level(SeriesKey.of("own.calls"), calls));
    }
    long source = up < 0 ? RawReading.NO_CLOCK : (start + up) * 1000;
    return new RawReading(at, source, began, start, complete, failed, values);
  }

  private static Map<String, String> groups(List<BeanQuery> queries) {
    Map<String, String> groups = new HashMap<>();
    queries.forEach(
        query -> query.reads().forEach(read -> groups.put(read.counter(), query.group())));
    return groups;
  }
}
