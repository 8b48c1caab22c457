package jamjar.server.live;

import java.util.List;

/** What a new live stream is told first. */
@FunctionalInterface
public interface Greeting {
  /** Of all there is. */
  List<Told> first();

  /**
   * One event of a stream.
   *
   * @param name of the event
   * @param id for the client to say what it has; empty for none
   * @param instance that it is about, for who may know of that; 0 for what is told to all
   * @param instead a later event of the same key takes the place of one that waits still; empty for
   *     one that must not be left out
   */
  record Told(String name, int instance, String id, String instead, Object data) {}
}
