package jamjar.standins.servers;

import java.time.Instant;
import java.util.List;
import java.util.function.ToDoubleFunction;

/**
 * What one server of Skerry Line does.
 *
 * @param perSecond requests a second in an ordinary hour
 * @param rhythm how busy it is at a moment, 1 in an ordinary hour
 * @param threads most request threads
 * @param floor what it keeps of its old generation, 0 to 1
 */
public record Profile(
    String name,
    String group,
    String site,
    double perSecond,
    ToDoubleFunction<Instant> rhythm,
    int threads,
    double floor,
    List<String> applications,
    List<Step> steps,
    List<Pool> pools,
    List<Queue> queues) {

  /**
   * A step of a customer.
   *
   * @param share of the requests that it is part of
   * @param millis how long it takes
   */
  public record Step(String application, String name, double share, double millis) {}

  /**
   * A connection pool.
   *
   * @param database the engine that it leads to
   * @param perRequest connections lent per request
   */
  public record Pool(String name, String database, int max, double perRequest, double holdMillis) {}

  /** A queue; what comes in in an ordinary hour, and the most that can be taken out, per second. */
  public record Queue(String name, double perSecond, double outPerSecond, int consumers) {}

  double share(Instant now) {
    return rhythm.applyAsDouble(now);
  }

  /** Without applications it is a plain JVM. */
  public boolean appserver() {
    return !applications.isEmpty();
  }

  public String kind() {
    return appserver() ? "appserver" : "jvm";
  }

  public String recipe() {
    return appserver() ? "stand-in" : "jvm";
  }
}
