package jamjar.server.instances;

import jamjar.store.instances.InstanceRow;
import java.util.List;

/** Tries what a person has typed before it is saved. */
@FunctionalInterface
public interface Checks {
  /**
   * @param before the instance that is changed; null for a new one
   */
  List<CheckView> of(InstanceBody body, InstanceRow before);
}
