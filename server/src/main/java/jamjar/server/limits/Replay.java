package jamjar.server.limits;

import jamjar.core.counter.Recipe;
import jamjar.core.limit.Docket;
import jamjar.core.limit.Rule;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.instances.InstanceRow;
import java.time.Instant;
import java.util.List;

/** Judges again what was stored; nothing is written. */
public final class Replay {

  private Replay() {}

  /**
   * As it was, by the rules in the store: the readings in the order of their arrival, from calm.
   * The silence of the instance is not judged again: it depends on when Jam Jar itself was running.
   *
   * @param normals what was normal
   * @return per reading what it changed
   */
  public static List<Judged> asItWas(
      Store store,
      Recipe recipe,
      InstanceRow instance,
      Docket.Normals normals,
      Instant from,
      Instant to) {
    List<Rule> rules = store.rules().all().stream().map(row -> Rules.rule(row, to)).toList();
    return new InstanceJudge(instance, store, recipe, normals, rules, Long.MAX_VALUE / 2)
        .replay(from, to);
  }
}
