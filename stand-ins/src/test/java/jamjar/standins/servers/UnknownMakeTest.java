package jamjar.standins.servers;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCollector;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeBook;
import jamjar.core.counter.Pace;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.store.cluster.PrivateCluster;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import javax.management.MBeanServer;
import javax.management.MBeanServerFactory;
import javax.management.ObjectName;
import javax.management.openmbean.CompositeData;
import javax.management.openmbean.CompositeDataSupport;
import javax.management.openmbean.CompositeType;
import javax.management.openmbean.OpenDataException;
import javax.management.openmbean.OpenType;
import javax.management.openmbean.SimpleType;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A server of a make that no code knows is read by a recipe file alone. */
class UnknownMakeTest {
  private static final String FILE =
      """
      kind: appserver
      name: Halyard
      basedOn: [appserver]
      groups: {sails: fast}
      limits:
        - {counter: sails.torn, condition: above, warning: 1, hold: [1, 1]}
      beans:
        - group: pools
          name: 'halyard.resources:kind=ConnectionStore,id=*,*'
          labels: {pool: {from: id, match: 'store-(.*)'}}
          read:
            - {counter: pool.in_use, attribute: Lent.now, unknown: -1}
            - {counter: pool.max, attribute: Lent.most}
            - {counter: pool.acquired, attribute: LentEver}
            - {counter: pool.hold_time, attribute: HeldMicros, scale: 0.001}
        - group: applications
          name: 'halyard:unit=*'
          labels: {application: unit}
          read:
            - {counter: application.running, attribute: Phase, words: {UNDER_WAY: 1, '*': 0}}
        - group: sails
          name: 'halyard:service=Sails'
          read:
            - {counter: sails.torn, attribute: Torn}
      counters:
        - {key: sails.torn, title: Torn sails, group: sails, shape: level, matters: 1, worse: up, meaning: 'Sails that are torn.'}
      """;

  @Test
  void it_is_brought_under_watch_by_a_file_and_its_new_pools_appear(@TempDir Path folder)
      throws Exception {
    Files.writeString(folder.resolve("halyard.yaml"), FILE);
    RecipeBook book = RecipeBook.read(folder, Optional.empty());
    assertThat(book.faults()).isEmpty();
    LoadedRecipe recipe = book.find("halyard").orElseThrow();
    MBeanServer beans = MBeanServerFactory.newMBeanServer();
    AtomicLong lent = new AtomicLong(100);
    store(beans, "halyard.resources:kind=ConnectionStore,id=store-cargo,deck=2", lent, 7);
    unit(beans, "manifest", "UNDER_WAY");
    unit(beans, "crew", "SUNK");
    int port = PrivateCluster.freePort();
    Target target = new Target("127.0.0.1", port, "", Target.Tls.OFF, "", "", "");
    try (ManagedServer server = new ManagedServer(beans, port);
        JmxCollector collector = JmxCollector.of(target, recipe, Pace.FAST, Clock.systemUTC())) {
      Increases.Step first = Increases.derive(Optional.empty(), collector.read(), recipe.recipe());
      Reading reading = first.reading();
      assertThat(reading.value(pool("pool.in_use", "cargo"))).isEqualTo(7);
      assertThat(reading.value(SeriesKey.of("application.running", "application", "manifest")))
          .isEqualTo(1);
      assertThat(reading.value(SeriesKey.of("application.running", "application", "crew")))
          .isZero();
      // not registered: none there, and not zero
      int sails = reading.series().indexOf(SeriesKey.of("sails.torn"));
      assertThat(reading.why()[sails]).isEqualTo(WhyNothing.NONE_THERE);

      lent.addAndGet(40);
      store(beans, "halyard.resources:kind=ConnectionStore,id=store-crew,deck=1", lent, -1);
      beans.unregisterMBean(new ObjectName("halyard:unit=crew"));
      beans.registerMBean(
          new SimBean(() -> {}).with("Torn", () -> 2), new ObjectName("halyard:service=Sails"));
      Reading second = next(first.last(), collector, recipe);
      assertThat(second.value(pool("pool.acquired", "cargo"))).isEqualTo(40);
      // whole from the first, as it was absent from a complete reading
      assertThat(second.value(pool("pool.acquired", "crew"))).isEqualTo(140);
      // its own way of saying that it does not know
      assertThat(second.value(pool("pool.in_use", "crew"))).isNaN();
      assertThat(second.series())
          .doesNotContain(SeriesKey.of("application.running", "application", "crew"));
      assertThat(second.value(SeriesKey.of("sails.torn"))).isEqualTo(2);
      // 140 ms held by 40 lent: 3.5 ms each
      assertThat(Shown.of(second, recipe.recipe(), 60_000))
          .filteredOn(s -> s.series().equals(pool("pool.mean_hold", "cargo")))
          .singleElement()
          .extracting(Shown::value)
          .isEqualTo(0.0035);
    }
  }

  private static Reading next(LastTotals last, JmxCollector collector, LoadedRecipe recipe)
      throws Exception {
    return Increases.derive(Optional.of(last), collector.read(), recipe.recipe()).reading();
  }

  private static SeriesKey pool(String counter, String pool) {
    return SeriesKey.of(counter, "pool", pool);
  }

  private static void store(MBeanServer beans, String name, AtomicLong lent, int now)
      throws Exception {
    SimBean bean =
        new SimBean(() -> {})
            .with("Lent", () -> lent(now))
            .with("LentEver", lent::get)
            .with("HeldMicros", () -> lent.get() * 3500);
    beans.registerMBean(bean, new ObjectName(name));
  }

  private static CompositeData lent(int now) {
    try {
      String[] items = {"now", "most"};
      OpenType<?>[] types = {SimpleType.INTEGER, SimpleType.INTEGER};
      CompositeType type = new CompositeType("lent", "lent", items, items, types);
      return new CompositeDataSupport(type, items, new Object[] {now, 20});
    } catch (OpenDataException e) {
      throw new IllegalStateException(e);
    }
  }

  private static void unit(MBeanServer beans, String name, String phase) throws Exception {
    beans.registerMBean(
        new SimBean(() -> {}).with("Phase", () -> phase), new ObjectName("halyard:unit=" + name));
  }
}
