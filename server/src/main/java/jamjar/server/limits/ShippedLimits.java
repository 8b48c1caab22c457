package jamjar.server.limits;

import jamjar.core.limit.Rule;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Component;

/** Puts the shipped limits of each kind into the store, and hands out all rules as judged by. */
@Component
public class ShippedLimits {
  private final Store store;
  private final Clock clock;

  ShippedLimits(Store store, Recipes recipes, Clock clock) {
    this.store = store;
    this.clock = clock;
    Instant now = clock.instant();
    recipes.shippedLimits().forEach(rule -> store.rules().ship(Rules.shipped(rule, now)));
  }

  /** All rules; one whose time off is over counts as on. */
  public List<Rule> rules() {
    Instant now = clock.instant();
    return store.rules().all().stream().map(row -> Rules.rule(row, now)).toList();
  }

  /** When the next rule that is off comes on by itself; the far future when none does. */
  public Instant nextOn() {
    Instant now = clock.instant();
    return store.rules().all().stream()
        .map(row -> row.offUntil() == null ? Instant.MAX : row.offUntil())
        .filter(now::isBefore)
        .min(Instant::compareTo)
        .orElse(Instant.MAX);
  }
}
