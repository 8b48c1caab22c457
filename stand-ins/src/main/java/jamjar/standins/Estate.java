package jamjar.standins;

import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Recipe;
import jamjar.core.statement.StatementKey;
import jamjar.standins.booking.BookingEngine;
import jamjar.standins.booking.FareReload;
import jamjar.standins.booking.Ledger;
import jamjar.standins.booking.Load;
import jamjar.standins.history.Calibration;
import jamjar.standins.history.CountedPast;
import jamjar.standins.history.EnginePast;
import jamjar.standins.history.EngineStory;
import jamjar.standins.history.History;
import jamjar.standins.history.LoggedPast;
import jamjar.standins.history.SampledPast;
import jamjar.standins.inbox.Inbox;
import jamjar.standins.servers.Mischief;
import jamjar.standins.servers.Past;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Rhythm;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import jamjar.standins.servers.Story;
import jamjar.store.Store;
import jamjar.store.cluster.PrivateCluster;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParentCommand;

/**
 * Skerry Line's estate, live: starts what is watched, its load, and brings it under watch by the
 * public API.
 */
@Command(
    name = "estate",
    description = "Starts the demo's estate and stays until interrupted; the demo calls this.")
final class Estate implements Callable<Integer> {
  private static final int INTERVAL_S = 10;
  private static final Duration ALL_READ_WITHIN = Duration.ofMinutes(3);
  private static final Recipe POSTGRESQL = RecipeFile.shipped("postgresql").recipe();
  private static final double LEAST_BUSY = 0.2;
  private static final List<String> ENGINES =
      List.of(EngineStory.WRITER, EngineStory.READER, EngineStory.FREIGHT);
  private static final String POOLED = "booking";
  private static final Duration FOR_EVER = Duration.ofDays(3650);

  /** Three judgings of ten seconds that passed, and the reading that closes the last. */
  private static final Duration CRITICAL_AFTER = Duration.ofSeconds(31);

  private Watching watching;

  @ParentCommand private StandIns parent;

  @Option(
      names = "--server",
      required = true,
      description = "address of the Jam Jar that is to watch it")
  private URI server;

  @Option(
      names = "--token",
      required = true,
      description = "file of the token by which that Jam Jar lets its programs in")
  private Path token;

  @Option(names = "--seed", defaultValue = "4711")
  private long seed;

  @Option(
      names = "--store",
      description = "the private store of that Jam Jar; without it there is no history")
  private Path store;

  /** What these use is left to be found by its address, and to be confirmed by a person. */
  private static final String FOUND = "fares-";

  @Override
  public Integer call() throws Exception {
    DemoFolder folder = parent.folder();
    Files.createDirectories(folder.root());
    Freight freight = new Freight(folder.freight(), Estate::busy, seed + 1);
    Thread ending =
        new Thread(
            () -> {
              folder.replica().stop();
              folder.engine().stop();
              freight.close();
            },
            "ending");
    Runtime.getRuntime().addShutdownHook(ending);
    BookingEngine bookings = new BookingEngine(folder);
    bookings.start();
    bookings.startReplica();
    String reader = Files.readString(folder.readerPassword()).strip();
    freight.start(reader);
    Ledger ledger = new Ledger();
    Story story = new Story(folder.opened(Instant.now()));
    if (store != null) {
      leaveOut(folder, Story.GONE);
    }
    try (Servers servers =
            Servers.start(Skerry.servers(), folder.servers(), Clock.systemUTC(), story, seed);
        Inbox inbox = Inbox.start(0, 0, Clock.systemUTC());
        Load load = new Load(folder, folder::loadIsOn, Estate::busy, ledger)) {
      load.start(seed);
      watching = new Watching(server, token);
      watching.awaitHealthy();
      watching.people();
      Files.writeString(folder.inbox(), inbox.address().toString());
      new ToldPeople(watching, inbox).set();
      if (store != null) {
        Instant opened = folder.opened(Instant.now());
        Thread past = new Thread(() -> past(folder, story, opened), "history");
        past.setDaemon(true);
        past.start();
      }
      for (WatchedInstance instance : instances(folder, servers, reader)) {
        watching.watch(instance);
      }
      watching.expected();
      System.out.println("estate is up");
      Thread reload =
          new Thread(
              new FareReload(
                  folder,
                  Skerry.bookingServers(),
                  () -> isKnown(folder),
                  Clock.systemUTC(),
                  System.out),
              "fare-reload");
      reload.setDaemon(true);
      reload.start();
      ledger.write(folder.ledger(), Clock.systemUTC());
    }
    return 0;
  }

  /** It is not there from the first opening on, until somebody starts it. */
  private static void leaveOut(DemoFolder folder, String server) throws IOException {
    if (!Files.exists(folder.leftOut())) {
      folder.mischief().begin(server, Mischief.Kind.STOP, FOR_EVER);
      Files.writeString(folder.leftOut(), server);
    }
  }

  /** Whether the history is made of what was usual: nothing may go wrong before. */
  private boolean isKnown(DemoFolder folder) {
    return store == null
        || ENGINES.stream().allMatch(name -> Files.exists(folder.calibration(name)));
  }

  /** As busy as in the history that is before it, and not so little that nothing is to be seen. */
  private static double busy() {
    return Math.max(LEAST_BUSY, Rhythm.booking(Instant.now()));
  }

  private static List<WatchedInstance> instances(
      DemoFolder folder, Servers servers, String reader) {
    List<WatchedInstance> all = new ArrayList<>();
    all.add(
        engine("booking-db-a", folder.engine().port(), DemoFolder.DATABASE, reader)
            .at("booking-db", "Northquay", "nq-db-1", "writer"));
    all.add(
        engine("booking-db-b", folder.replica().port(), DemoFolder.DATABASE, reader)
            .at("booking-db", "Southmole", "sm-db-1", "reader"));
    all.add(
        engine("freight-db", folder.freight().port(), Freight.DATABASE, reader)
            .at("freight-db", "Southmole", "sm-db-2"));
    Map<String, String> addresses =
        all.stream().collect(Collectors.toMap(WatchedInstance::name, WatchedInstance::address));
    for (SimServer server : servers.all()) {
      server.leads(addresses);
      WatchedInstance watched = WatchedInstance.server(server, INTERVAL_S);
      // one that was never read has told nobody what it uses
      boolean unknown = server.name().startsWith(FOUND) || server.name().equals(Story.GONE);
      all.add(unknown ? watched.withoutUses() : watched);
    }
    return all;
  }

  private static WatchedInstance engine(String name, int port, String database, String reader) {
    return WatchedInstance.engine(name, port, database, DemoFolder.READER, reader, INTERVAL_S);
  }

  /** Writes what was before, and has it learned, each once, whenever it is ended in between. */
  private void past(DemoFolder folder, Story story, Instant opened) {
    try {
      if (!Files.exists(folder.history())) {
        write(folder, story, opened);
        Files.writeString(folder.history(), "");
      }
      if (!Files.exists(folder.learned())) {
        watching.learn(ENGINES);
        watching.judge();
        Files.writeString(folder.learned(), "");
        System.out.println("history is learned");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (Exception e) {
      // the demo goes on without it; a start of its own tries again
      System.err.println("no history: " + e);
    }
  }

  private void write(DemoFolder folder, Story story, Instant opened) throws Exception {
    PrivateCluster cluster = new PrivateCluster(store);
    try (Store there = Store.open(cluster.url("postgres"), "postgres", cluster.password())) {
      History history = new History(there, story);
      EngineStory ofEngines = new EngineStory(story, opened);
      long began = System.nanoTime();
      try (History.Writing writing = history.begin(this::progress)) {
        List<History.Subject> servers =
            new ArrayList<>(History.servers(Skerry.servers(), story, seed));
        List<String> engines = new ArrayList<>(ENGINES);
        // one may have been removed, renamed or paused by then
        while (!(servers.isEmpty() && engines.isEmpty())
            && System.nanoTime() - began < ALL_READ_WITHIN.toNanos()) {
          servers.removeIf(writing::add);
          for (String name : List.copyOf(engines)) {
            Optional<Calibration> usual = calibration(folder, history, name);
            if (usual.isPresent() && writing.add(engine(name, usual.get(), story, ofEngines))) {
              engines.remove(name);
            }
          }
          Thread.sleep(200);
        }
        writing.await();
      }
      sampled(there, folder, story, ofEngines, opened);
      dumped(there, story);
      mark(there, story, ofEngines);
      System.out.printf("history took %.0f s%n", (System.nanoTime() - began) / 1e9);
    }
  }

  /** The sessions of the engines, as they would have been sampled until it was opened. */
  private void sampled(
      Store there, DemoFolder folder, Story story, EngineStory ofEngines, Instant opened)
      throws IOException {
    for (String name : ENGINES) {
      Optional<Integer> id = there.instances().idByName(name);
      if (id.isEmpty() || !Files.exists(folder.calibration(name))) {
        continue;
      }
      Calibration usual = Calibration.read(folder.calibration(name));
      SampledPast past =
          new SampledPast(name, past(name, usual, story, ofEngines), ofEngines, seed);
      Map<Long, String> texts = new HashMap<>(past.texts());
      List<Long> counted =
          usual.statements().keySet().stream().map(StatementKey::fingerprint).toList();
      texts.putAll(there.statements().texts(id.get(), counted));
      there.statements().tell(id.get(), texts, past.begin(opened));
      past.write(there.samples(), id.get(), opened);
      new CountedPast(
              name,
              past(name, usual, story, ofEngines),
              usual,
              ofEngines,
              cutOff(name, story),
              seed)
          .write(there.statements(), id.get(), opened);
      LoggedPast logged = new LoggedPast(name, past, ofEngines, cutOff(name, story), seed);
      there.statements().tell(id.get(), logged.texts(), past.begin(opened));
      logged.write(there.logs(), id.get(), opened);
      progress("the sessions of " + name + " are there");
    }
  }

  /** The threads of the servers whose pool ran empty, as soon as that was critical. */
  private void dumped(Store there, Story story) {
    Instant at = story.emptyPools().from().plus(CRITICAL_AFTER);
    for (Profile profile : Skerry.servers()) {
      Optional<Integer> id = there.instances().idByName(profile.name());
      if (id.isPresent() && profile.group().equals(POOLED)) {
        LoadedRecipe recipe = RecipeFile.shipped(profile.recipe());
        String title = recipe.recipe().counter("pool.waiting").orElseThrow().title();
        Past past = new Past(profile, recipe, story, seed + profile.name().hashCode());
        String why = title + " · bookingPool is critical";
        there.dumps().put(id.get(), past.threads(at, why));
        at = at.plusSeconds(1);
      }
    }
  }

  /** How an engine is, once it is read for long enough to tell how it was before. */
  private static Optional<Calibration> calibration(DemoFolder folder, History history, String name)
      throws IOException {
    Path file = folder.calibration(name);
    if (Files.exists(file)) {
      return Optional.of(Calibration.read(file));
    }
    Optional<Calibration> now = history.calibration(name, POSTGRESQL);
    if (now.isPresent()) {
      now.get().write(file);
    }
    return now;
  }

  private History.Subject engine(
      String name, Calibration usual, Story story, EngineStory ofEngines) {
    return new History.Subject(
        name,
        site(name),
        (from, to, every, taking) ->
            past(name, usual, story, ofEngines).read(from, to, every, taking));
  }

  private static String site(String name) {
    return name.equals(EngineStory.WRITER) ? "Northquay" : "Southmole";
  }

  private static Predicate<Instant> cutOff(String name, Story story) {
    return at -> site(name).equals(story.cutOff().site()) && story.cutOff().holds(at);
  }

  private EnginePast past(String name, Calibration usual, Story story, EngineStory ofEngines) {
    return new EnginePast(name, POSTGRESQL, usual, ofEngines, cutOff(name, story), seed);
  }

  private void progress(String words) {
    System.out.println(words);
  }

  /** What people of Skerry Line noted. */
  private void mark(Store there, Story story, EngineStory engines)
      throws IOException, InterruptedException {
    Story.Stretch reload = engines.reload();
    Optional<Integer> writer = there.instances().idByName(reload.site());
    if (writer.isPresent()) {
      String of = writer.get().toString();
      marker(reload.what(), reload.words(), "", reload.from(), reload.to(), "instance", of);
    }
    for (EngineStory.Mark mark : engines.marks()) {
      Optional<Integer> id = there.instances().idByName(mark.instance());
      if (id.isPresent()) {
        String of = id.get().toString();
        marker("change", mark.title(), mark.note(), mark.at(), null, "instance", of);
      }
    }
    for (Story.Mark mark : story.marks()) {
      marker("release", mark.title(), mark.note(), mark.at(), null, "group", mark.group());
    }
    Story.Stretch works = story.maintenance();
    marker(works.what(), works.words(), "", works.from(), works.to(), "site", works.site());
    Story.Stretch pools = story.emptyPools();
    marker(pools.what(), pools.words(), "", pools.from(), pools.to(), "group", POOLED);
  }

  private void marker(
      String kind, String title, String note, Instant from, Instant to, String reach, String of)
      throws IOException, InterruptedException {
    Map<String, Object> body = new HashMap<>();
    body.put("kind", kind);
    body.put("title", title);
    body.put("note", note);
    body.put("from", from.toEpochMilli());
    body.put("to", to == null ? null : to.toEpochMilli());
    body.put("reach", Map.of("level", reach, "of", of));
    watching.mark(body);
  }
}
