package jamjar.standins;

import jamjar.standins.booking.Misbehaviour;
import jamjar.standins.company.CompanyCommand;
import jamjar.standins.inbox.InboxCommand;
import jamjar.standins.servers.Mischief;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Skerry;
import jamjar.store.cluster.PrivateCluster;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;
import picocli.CommandLine.TypeConversionException;

/** The demo's stand-ins on the command line: they can be started, and told to misbehave. */
@Command(
    name = "stand-in",
    mixinStandardHelpOptions = true,
    subcommands = Estate.class,
    description = "Tells the demo's stand-ins to misbehave.")
public final class StandIns {

  @Option(
      names = "--data",
      required = true,
      scope = CommandLine.ScopeType.INHERIT,
      description = "the demo's data folder")
  Path data;

  DemoFolder folder() {
    return new DemoFolder(data);
  }

  private Misbehaviour misbehaviour() {
    return new Misbehaviour(folder(), System.out);
  }

  @Command(
      name = "hold-lock",
      description = "Holds an exclusive lock on the table of sailings, idle in transaction.")
  int holdLock(@Option(names = "--for", defaultValue = "60s") Duration time) throws Exception {
    return misbehaviour().holdLock(time);
  }

  @Command(
      name = "hold-sessions",
      description =
          "Holds sessions: how many idle in transaction, waiting for a lock, active and not"
              + " waiting.")
  int holdSessions(
      @Parameters(paramLabel = "IDLE") int idle,
      @Parameters(paramLabel = "WAITING") int waiting,
      @Parameters(paramLabel = "ACTIVE") int active,
      @Option(names = "--for", defaultValue = "60s") Duration time)
      throws Exception {
    return misbehaviour().holdSessions(idle, waiting, active, time);
  }

  @Command(
      name = "slow-statement",
      description = "Drops the index of bookings by sailing, and puts it back.")
  int slowStatement(@Option(names = "--for", defaultValue = "60s") Duration time) throws Exception {
    return misbehaviour().slowStatement(time);
  }

  @Command(name = "many-sessions", description = "Opens idle sessions.")
  int manySessions(
      @Parameters(paramLabel = "COUNT", defaultValue = "60", arity = "0..1") int count,
      @Option(names = "--for", defaultValue = "60s") Duration time)
      throws Exception {
    return misbehaviour().manySessions(count, time);
  }

  @Command(name = "stop-engine", description = "Stops booking-db-a, and starts it again.")
  int stopEngine(@Option(names = "--for", defaultValue = "60s") Duration time) throws Exception {
    return misbehaviour().stopEngine(time);
  }

  /** Keeps a server at one kind of mischief for a time. */
  @Command(mixinStandardHelpOptions = true)
  static final class OnServer implements Callable<Integer> {
    private final Mischief.Kind kind;

    @ParentCommand private StandIns parent;

    @Parameters(paramLabel = "NAME", description = "name of an application server or a JVM")
    private String name;

    @Option(names = "--for", defaultValue = "5m")
    private Duration time;

    OnServer(Mischief.Kind kind) {
      this.kind = kind;
    }

    @Override
    public Integer call() throws InterruptedException {
      List<String> known = Skerry.servers().stream().map(Profile::name).toList();
      return parent.folder().mischief().keep(name, kind, time, known, System.out);
    }
  }

  @Command(name = "start", description = "Starts a server that is not there: gate-4.")
  int startServer(@Parameters(paramLabel = "NAME") String name) {
    if (Skerry.servers().stream().noneMatch(server -> server.name().equals(name))) {
      throw new IllegalArgumentException("there is no stand-in '" + name + "'");
    }
    folder().mischief().end(name, Mischief.Kind.STOP);
    System.out.println(name + " is started");
    return 0;
  }

  @Command(name = "load", description = "Switches the load on the bookings on or off.")
  int load(@Parameters(paramLabel = "on|off") String state) throws Exception {
    return misbehaviour().load(state);
  }

  @Command(
      name = "ledger",
      description = "Prints what the load committed between two instants, by its own count.")
  int ledger(
      @Parameters(paramLabel = "FROM", description = "epoch ms") long from,
      @Parameters(paramLabel = "TO", description = "epoch ms") long to)
      throws Exception {
    return misbehaviour().ledger(from, to);
  }

  @Command(
      name = "sign-on",
      description = "A company's own sign-on by OpenID Connect, with made-up people, until Ctrl-C.")
  int signOn(
      @Option(names = "--port", defaultValue = "8322") int port,
      @Option(names = "--for", required = true, description = "the address of Jam Jar") String of)
      throws Exception {
    return new CompanyCommand(folder().root(), System.out).run(port, of);
  }

  @Command(
      name = "inbox",
      description = "A mail server and a receiver of web hooks, with a page to read what came.")
  int inbox(
      @Option(names = "--mail-port", defaultValue = "8325") int mailPort,
      @Option(names = "--port", defaultValue = "8326") int port)
      throws Exception {
    return new InboxCommand(System.out).run(mailPort, port);
  }

  @Command(
      name = "empty",
      hidden = true,
      description = "Stops and removes the demo's clusters; ./jamjar demo --fresh calls this.")
  int empty(@Option(names = "--store", required = true) Path store) {
    new PrivateCluster(store).remove();
    folder().replica().remove();
    folder().engine().remove();
    folder().freight().remove();
    return 0;
  }

  /** Durations as people write them: 60s, 5m, 500ms. */
  private static final class Durations implements ITypeConverter<Duration> {
    private static final Pattern FORM = Pattern.compile("(\\d+)(ms|s|m|h)");

    @Override
    public Duration convert(String value) {
      Matcher form = FORM.matcher(value);
      if (!form.matches()) {
        throw new TypeConversionException("'" + value + "' is not a time such as 60s or 5m");
      }
      long n = Long.parseLong(form.group(1));
      return switch (form.group(2)) {
        case "ms" -> Duration.ofMillis(n);
        case "s" -> Duration.ofSeconds(n);
        case "m" -> Duration.ofMinutes(n);
        default -> Duration.ofHours(n);
      };
    }
  }

  public static void main(String[] args) {
    CommandLine line = new CommandLine(new StandIns());
    for (Mischief.Kind kind : Mischief.Kind.values()) {
      CommandLine command = new CommandLine(new OnServer(kind));
      command.getCommandSpec().usageMessage().description(kind.description());
      line.addSubcommand(kind.word(), command);
    }
    line.registerConverter(Duration.class, new Durations());
    line.setExecutionExceptionHandler(
        (failure, command, parsed) -> {
          command.getErr().println(failure.getMessage());
          return 1;
        });
    System.exit(line.execute(args));
  }
}
