package jamjar.bench;

import jamjar.collect.Target;
import jamjar.collect.postgresql.OwnCommits;
import jamjar.collect.postgresql.PostgresCollector;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.SeriesKey;
import jamjar.standins.DemoFolder;
import jamjar.standins.booking.BookingEngine;
import jamjar.standins.booking.Ledger;
import jamjar.standins.booking.Load;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Optional;

/**
 * Commits in the load's database as Jam Jar reads them, its own subtracted, beside what the load
 * says it committed.
 */
final class LedgerBench {
  private LedgerBench() {}

  static void run(String[] options) throws Exception {
    int readings = Bench.minutes(options, 5) * 6;
    try (BenchEngine engine = BenchEngine.start()) {
      Recipe recipe = RecipeFile.shipped("postgresql").recipe();
      SeriesKey committed = SeriesKey.of("transactions.committed", "database", DemoFolder.DATABASE);
      try (PostgresCollector collector =
          PostgresCollector.of(
              engine.target(),
              RecipeFile.shipped("postgresql").recipe(),
              Pace.FAST,
              OwnCommits.after(Optional.empty(), ""),
              Clock.systemUTC())) {
        Optional<LastTotals> last = Optional.empty();
        double seen = 0;
        double own = 0;
        long ledgerBefore = 0;
        for (int i = 0; i <= readings; i++) {
          Increases.Step step = Increases.derive(last, collector.read(), recipe);
          last = Optional.of(step.last());
          if (i == 0) {
            ledgerBefore = engine.ledger().commits();
          } else {
            seen += step.reading().value(committed);
            own += step.reading().value(SeriesKey.of("own.commits"));
          }
          if (i < readings) {
            Thread.sleep(10_000);
          }
        }
        long ledger = engine.ledger().commits() - ledgerBefore;
        System.out.printf(
            "%d readings of 10 s: ledger %d, read %.0f (own %.0f subtracted), difference %.2f %%%n",
            readings, ledger, seen, own, 100 * (seen - ledger) / ledger);
      }
    }
  }

  /** The demo's booking engine under its load, in a temporary folder. */
  static final class BenchEngine implements AutoCloseable {
    private final DemoFolder folder;
    private final Ledger ledger = new Ledger();
    private final Load load;

    private BenchEngine(DemoFolder folder) {
      this.folder = folder;
      this.load = new Load(folder, () -> true, ledger);
    }

    static BenchEngine start() throws Exception {
      Path root = Files.createTempDirectory("jamjar-bench");
      root.toFile().setExecutable(true, false);
      DemoFolder folder = new DemoFolder(root);
      Runtime.getRuntime().addShutdownHook(new Thread(() -> folder.engine().remove()));
      new BookingEngine(folder).start();
      BenchEngine engine = new BenchEngine(folder);
      engine.load.start(4711);
      Thread.sleep(5_000);
      return engine;
    }

    Ledger ledger() {
      return ledger;
    }

    DemoFolder folder() {
      return folder;
    }

    Target target() throws Exception {
      return new Target(
          "127.0.0.1",
          folder.engine().port(),
          DemoFolder.DATABASE,
          Target.Tls.OFF,
          "",
          DemoFolder.READER,
          Files.readString(folder.readerPassword()).strip());
    }

    @Override
    public void close() throws Exception {
      load.close();
      folder.engine().remove();
      Files.deleteIfExists(folder.readerPassword());
      Files.deleteIfExists(folder.root());
    }
  }
}
