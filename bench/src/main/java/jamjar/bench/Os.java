package jamjar.bench;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

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

  /** Threads of a process. */
  static int threads(long process) throws IOException {
    try (Stream<Path> all = Files.list(Path.of("/proc/" + process + "/task"))) {
      return (int) all.count();
    }
  }

  /** Open files and sockets of a process. */
  static int handles(long process) throws IOException {
    try (Stream<Path> all = Files.list(Path.of("/proc/" + process + "/fd"))) {
      return (int) all.count();
    }
  }

  /** What a JVM keeps on its heap after a forced collection, in MB. */
  static double keptMegabytes(long process) throws IOException {
    // it collects first; its last line is: Total, objects, bytes
    return asked(process, "GC.class_histogram", Pattern.compile("^Total +\\d+ +(\\d+)")) / 1e6;
  }

  private static double asked(long process, String question, Pattern number) throws IOException {
    Process command =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "jcmd").toString(),
                Long.toString(process),
                question)
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    try (BufferedReader lines = command.inputReader()) {
      return lines
          .lines()
          .map(number::matcher)
          .filter(Matcher::find)
          .mapToDouble(found -> Double.parseDouble(found.group(1)))
          .findFirst()
          .orElseThrow(() -> new IOException(process + " does not tell " + question));
    }
  }
}
