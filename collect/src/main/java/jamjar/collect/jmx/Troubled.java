package jamjar.collect.jmx;

import jamjar.collect.Hidden;
import jamjar.collect.Target;
import jamjar.core.counter.WhyNothing;
import jamjar.core.failure.Causes;
import java.io.InvalidClassException;
import java.net.SocketTimeoutException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import javax.management.AttributeNotFoundException;
import javax.management.ObjectName;
import javax.management.remote.JMXConnector;

/**
 * Attributes of one JVM that can't be read like the others: of a class that is not taken, that
 * answer with an error, or that block. Each costs its own counter alone. Where a whole call fails,
 * its attributes are tried one by one over a connection and in a thread of their own, and those
 * that fail are left out of the calls from then on; now and then they are tried again.
 */
final class Troubled {
  private static final long AGAIN_NANOS = 600_000_000_000L;

  /** Over all connections to a JVM: one that may hang there still is not asked again. */
  private static final Map<Place, Long> HANGING = new ConcurrentHashMap<>();

  private final Target target;
  private final Map<Place, Trouble> troubles = new ConcurrentHashMap<>();
  private final Set<ObjectName> lookedAt = ConcurrentHashMap.newKeySet();

  private record Place(String address, ObjectName bean, String attribute) {}

  /**
   * What keeps an attribute from being read.
   *
   * @param words what answered
   * @param until the monotonic clock, when it is tried again
   */
  record Trouble(WhyNothing why, String words, long until) {}

  Troubled(Target target) {
    this.target = target;
  }

  /** What is known of an attribute; empty where it is read like the others. */
  Optional<Trouble> of(ObjectName bean, String attribute) {
    Trouble trouble = troubles.get(place(bean, attribute));
    if (trouble != null && System.nanoTime() > trouble.until()) {
      troubles.remove(place(bean, attribute));
      return Optional.empty();
    }
    return Optional.ofNullable(trouble);
  }

  /** Whether it is just being found out which attributes of a bean are the ones. */
  boolean isLookedAt(ObjectName bean) {
    return lookedAt.contains(bean);
  }

  /** What is told of them: bean and attribute, and why. */
  Map<String, String> told() {
    Map<String, String> told = new TreeMap<>();
    troubles.forEach(
        (place, trouble) -> {
          if (trouble.why() != WhyNothing.NONE_THERE) {
            told.put(place.attribute() + " of " + place.bean(), trouble.words());
          }
        });
    return told;
  }

  /** Whether an attribute may hang there still, as it did not answer in time a while ago. */
  static boolean mayHang(Target target, ObjectName bean, String attribute) {
    Long until = HANGING.get(new Place(target.toString(), bean, attribute));
    return until != null && System.nanoTime() < until;
  }

  /** It did not answer in time: at most one call of it hangs there. */
  static void hangs(Target target, ObjectName bean, String attribute) {
    HANGING.put(new Place(target.toString(), bean, attribute), System.nanoTime() + AGAIN_NANOS);
    HANGING.values().removeIf(until -> System.nanoTime() > until);
  }

  /** It has answered, though late. */
  static void answers(Target target, ObjectName bean, String attribute) {
    HANGING.remove(new Place(target.toString(), bean, attribute));
  }

  /** Tries the attributes of a bean one by one, apart; returns at once. */
  void look(ObjectName bean, List<String> attributes) {
    if (!lookedAt.add(bean)) {
      return;
    }
    Thread thread =
        new Thread(
            () -> {
              try {
                tryEach(bean, attributes);
              } finally {
                lookedAt.remove(bean);
              }
            },
            "apart-" + target.address());
    thread.setDaemon(true);
    thread.start();
  }

  private void tryEach(ObjectName bean, List<String> attributes) {
    JMXConnector connector = null;
    for (String attribute : attributes) {
      if (mayHang(target, bean, attribute)) {
        put(bean, attribute, blocks());
        continue;
      }
      try (TlsOfTarget about = TlsOfTarget.of(target)) {
        if (connector == null) {
          connector = JmxConnector.open(target);
        }
        connector.getMBeanServerConnection().getAttribute(bean, attribute);
        troubles.remove(place(bean, attribute));
      } catch (Exception e) {
        put(bean, attribute, trouble(bean, attribute, e));
      }
    }
    JmxConnector.close(connector);
  }

  private Trouble trouble(ObjectName bean, String attribute, Exception failure) {
    long until = System.nanoTime() + AGAIN_NANOS;
    if (failure instanceof AttributeNotFoundException) {
      return new Trouble(WhyNothing.NONE_THERE, "there is no such attribute", until);
    }
    if (Causes.has(failure, SocketTimeoutException.class)) {
      hangs(target, bean, attribute);
      return blocks();
    }
    if (isForeign(failure)) {
      return new Trouble(WhyNothing.FOREIGN, "of a class that is not taken", until);
    }
    return new Trouble(
        WhyNothing.FAILS,
        "its attribute fails: " + Hidden.text(shortened(Causes.words(failure))),
        until);
  }

  /** Whether an answer held a class that is not taken. */
  static boolean isForeign(Throwable failure) {
    return Causes.has(failure, InvalidClassException.class)
        || Causes.has(failure, ClassNotFoundException.class);
  }

  private static Trouble blocks() {
    return new Trouble(
        WhyNothing.BLOCKS,
        "it blocks: no answer in time, and it is not asked again for ten minutes",
        System.nanoTime() + AGAIN_NANOS);
  }

  private static String shortened(String text) {
    return text.length() > 200 ? text.substring(0, 200) + "…" : text;
  }

  private void put(ObjectName bean, String attribute, Trouble trouble) {
    troubles.put(place(bean, attribute), trouble);
  }

  private Place place(ObjectName bean, String attribute) {
    return new Place(target.toString(), bean, attribute);
  }

  /** None of a target that is connected to anew. */
  void forget() {
    troubles.clear();
  }

  /** What is known of all attributes of a bean that a query reads, by attribute. */
  Map<String, Trouble> of(ObjectName bean, List<String> attributes) {
    if (troubles.isEmpty()) {
      return Map.of();
    }
    Map<String, Trouble> known = new HashMap<>();
    attributes.forEach(attribute -> of(bean, attribute).ifPresent(t -> known.put(attribute, t)));
    return known;
  }
}
