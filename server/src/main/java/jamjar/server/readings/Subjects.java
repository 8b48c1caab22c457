package jamjar.server.readings;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.ZoneId;
import org.springframework.stereotype.Component;

/** What a question about one series is about. */
@Component
public class Subjects {
  private final Store store;
  private final Scopes scopes;
  private final Recipes recipes;

  Subjects(Store store, Scopes scopes, Recipes recipes) {
    this.store = store;
    this.scopes = scopes;
    this.recipes = recipes;
  }

  /** A series with what is known of it. */
  public record Subject(
      SeriesRow series, InstanceRow instance, CounterDefinition counter, Schedule schedule) {
    public ZoneId zone() {
      return ZoneId.of(instance.zone());
    }

    public Recipe recipe() {
      return schedule.recipe();
    }
  }

  /**
   * @throws Problem where there is no such series, its instance was removed or is not in the scope,
   *     or no recipe holds its counter now
   */
  public Subject of(int id) {
    SeriesRow series =
        store.series().byIds(new int[] {id}).stream()
            .findFirst()
            .orElseThrow(() -> Problem.unknown("There is no series " + id + "."));
    InstanceRow instance = scopes.instance(series.instance());
    Schedule schedule = recipes.scheduleOf(instance.id());
    CounterDefinition counter =
        schedule
            .recipe()
            .counter(series.counter())
            .orElseThrow(() -> Problem.unknown("No recipe holds " + series.counter() + " now."));
    return new Subject(series, instance, counter, schedule);
  }
}
