package jamjar.collect.jmx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import jamjar.core.threads.ThreadDump;
import jamjar.core.threads.ThreadDump.Seen;
import jamjar.core.threads.WhoWaits;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** The threads of a real JVM in which two wait for each other and one behind them. */
class DumpsTest {
  private static final LoadedRecipe RECIPE = RecipeFile.shipped("jvm");
  private static final Map<String, String> OPEN = Map.of("authenticate", "false", "ssl", "false");

  @Test
  void who_waits_for_whom_is_told_as_the_tool_of_the_jdk_tells_it() throws Exception {
    try (ChildJvm jvm = ChildJvm.labelled(ChildJvm.RING, OPEN);
        JmxCollector collector =
            JmxCollector.of(jvm.target(), RECIPE, Pace.FAST, Clock.systemUTC())) {
      assertThat(collector.dump("before it is read")).isEmpty();
      assertThat(collector.read().values())
          .contains(new RawValue.Level(SeriesKey.of("threads.deadlocked"), 2));
      ThreadDump dump = collector.dump("Deadlocked threads is critical").orElseThrow();
      assertThat(dump.why()).isEqualTo("Deadlocked threads is critical");
      assertThat(dump.more()).isZero();

      Seen pay = named(dump, "pay");
      Seen refund = named(dump, "refund");
      Seen clerk = named(dump, "clerk");
      List<WhoWaits.Lock> locks = new WhoWaits(dump).locks();
      assertThat(locks)
          .extracting(
              WhoWaits.Lock::holder, lock -> Set.copyOf(lock.waiters()), WhoWaits.Lock::ring)
          .containsExactlyInAnyOrder(
              tuple(pay.id(), Set.of(refund.id(), clerk.id()), true),
              tuple(refund.id(), Set.of(pay.id()), true));
      assertThat(dump.stacks().get(pay.stack()))
          .first()
          .asString()
          .startsWith("jamjar.collect.jmx.ChildJvm$Sleeper.behind:");

      String told = jvm.tool("Thread.print");
      assertThat(told).contains("Found one Java-level deadlock");
      // the same calls at the same lines
      String first = dump.stacks().get(pay.stack()).get(1);
      int line = first.lastIndexOf(':');
      assertThat(told)
          .contains(first.substring(0, line) + "(ChildJvm.java" + first.substring(line) + ")");
    }
  }

  private static Seen named(ThreadDump dump, String name) {
    Optional<Seen> found =
        dump.threads().stream().filter(thread -> thread.name().equals(name)).findFirst();
    return found.orElseThrow();
  }
}
