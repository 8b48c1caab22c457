package jamjar.store.cluster;

import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * Runs a command of a test by another wall clock, with Debian's libfaketime; the monotonic one is
 * left alone.
 */
public final class OtherClock {
  private OtherClock() {}

  /**
   * @param ahead such as {@code +90s}
   * @return the command to put before that which is run
   */
  public static List<String> ahead(String ahead) throws IOException {
    return by("FAKETIME=" + ahead);
  }

  /**
   * A clock that can be set while the command runs.
   *
   * @param file holds how far it is ahead, such as {@code +1h}; looked at once a second
   * @return the command to put before that which is run
   */
  public static List<String> from(Path file) throws IOException {
    return by("FAKETIME_TIMESTAMP_FILE=" + file, "FAKETIME_CACHE_DURATION=1");
  }

  private static List<String> by(String... settings) throws IOException {
    try (DirectoryStream<Path> machines = Files.newDirectoryStream(Path.of("/usr/lib"))) {
      for (Path machine : machines) {
        Path library = machine.resolve("faketime/libfaketimeMT.so.1");
        if (Files.exists(library)) {
          List<String> command = new java.util.ArrayList<>(List.of("env", "LD_PRELOAD=" + library));
          command.addAll(List.of(settings));
          command.add("FAKETIME_DONT_FAKE_MONOTONIC=1");
          return command;
        }
      }
    }
    throw new IOException("install it with: apt-get install libfaketime");
  }
}
