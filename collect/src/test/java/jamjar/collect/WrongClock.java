package jamjar.collect;

import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** Runs a command by another clock, with Debian's libfaketime. */
public final class WrongClock {
  private WrongClock() {}

  /**
   * @param ahead such as {@code +90s}
   * @return the command to put before that which is run
   */
  public static List<String> ahead(String ahead) throws IOException {
    try (DirectoryStream<Path> machines = Files.newDirectoryStream(Path.of("/usr/lib"))) {
      for (Path machine : machines) {
        Path library = machine.resolve("faketime/libfaketimeMT.so.1");
        if (Files.exists(library)) {
          return List.of(
              "env",
              "LD_PRELOAD=" + library,
              "FAKETIME=" + ahead,
              "FAKETIME_DONT_FAKE_MONOTONIC=1");
        }
      }
    }
    throw new IOException("install it with: apt-get install libfaketime");
  }
}
