package jamjar.standins.servers;

import java.io.IOException;
import java.io.PrintStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Locale;

/**
 * What a stand-in is told to do wrong: a file per server and kind that holds until when, so that
 * one process tells it to another, and nothing lasts for ever when the teller is killed.
 */
public final class Mischief {
  /** What there is. */
  public enum Kind {
    FILL_POOL("Lets a server's connection pools run empty."),
    HOLD_UP("Lets the database of a server's first pool hold up all that it was asked."),
    LEAK("Lets the heap floor of a server climb, fast; what leaked is kept until it is stopped."),
    STOP("Stops a server, and starts it again as a new process."),
    SLOW("Makes a server take eight times as long."),
    QUEUE_UP("Lets more come into a server's queues than goes out."),
    DEADLOCK("Lets two threads of a server wait for each other, and a few for them."),
    HANG("Lets a server take calls and answer none."),
    LIE("Lets a server tell counts that fall and levels that cannot be.");

    private final String description;

    Kind(String description) {
      this.description = description;
    }

    public String description() {
      return description;
    }

    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  private final Path folder;
  private final Clock clock;

  public Mischief(Path folder, Clock clock) {
    this.folder = folder;
    this.clock = clock;
  }

  /** Nothing is told. */
  static Mischief none() {
    return new Mischief(null, Clock.systemUTC());
  }

  boolean on(String server, Kind kind) {
    if (folder == null) {
      return false;
    }
    Path file = file(server, kind);
    try {
      return Files.exists(file) && Long.parseLong(Files.readString(file).trim()) > clock.millis();
    } catch (IOException | NumberFormatException e) {
      // it is being written or taken away at this moment
      return false;
    }
  }

  /** Keeps a server at it for a time, then lets go. */
  public int keep(String server, Kind kind, Duration time, List<String> known, PrintStream out)
      throws InterruptedException {
    if (!known.contains(server)) {
      throw new IllegalArgumentException(
          "there is no stand-in '" + server + "'; there are " + String.join(", ", known));
    }
    begin(server, kind, time);
    Thread end = new Thread(() -> end(server, kind));
    Runtime.getRuntime().addShutdownHook(end);
    out.println(kind.word() + " on " + server + " for " + time.toSeconds() + " s");
    Thread.sleep(time.toMillis());
    end(server, kind);
    return 0;
  }

  public void begin(String server, Kind kind, Duration time) {
    try {
      Files.createDirectories(folder);
      Path written = Files.createTempFile(folder, "new", ".tmp");
      Files.writeString(written, Long.toString(clock.millis() + time.toMillis()));
      Files.move(written, file(server, kind), java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  public void end(String server, Kind kind) {
    try {
      Files.deleteIfExists(file(server, kind));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private Path file(String server, Kind kind) {
    return folder.resolve(server + "." + kind.word());
  }
}
