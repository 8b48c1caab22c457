package jamjar.server.instances;

import jamjar.collect.Target;
import jamjar.store.instances.InstanceRow;
import java.util.Map;
import java.util.Optional;

/** Who reads the instances, as far as their catalogue needs to know of him. Never waits for one. */
public interface Reader {
  /**
   * Begins to read an instance, or begins anew after it was changed, paused or resumed. What is
   * being read of it is finished first.
   *
   * @param another whether another target is read from now on: its totals do not go on from those
   *     of the one before
   */
  void begin(InstanceRow row, Target target, boolean another);

  /** It can't even be begun: its recipe is gone, or its password can't be opened. */
  void cannotBegin(InstanceRow row, String words);

  /** Leaves an instance for good: what was open of it ends. */
  void removed(InstanceRow row);

  /** How it is doing; empty when it is not read. */
  Optional<InstanceState> state(int instance);

  /**
   * What the instance said of itself when last connected, but for its settings, arguments and
   * properties.
   */
  Map<String, String> facts(int instance);
}
