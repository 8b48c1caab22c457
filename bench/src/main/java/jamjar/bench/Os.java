package jamjar.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** What the operating system says of a process. */
final class Os {
  private static final double TICKS_PER_SECOND = 100;

  private Os() {}

  /** User and system time of a process so far, in seconds. */
  static double cpuSeconds(long process) throws IOException {
    String stat = Files.readString(Path.of("/proc/" + process + "/stat"));
    String[] fields = stat.substring(stat.lastIndexOf(')') + 2).split(" ");
    return (Long.parseLong(fields[11]) + Long.parseLong(fields[12])) / TICKS_PER_SECOND;
  }
}
