package jamjar.server;

import jamjar.store.cluster.ClusterCopy;
import jamjar.store.cluster.ClusterFailed;
import jamjar.store.cluster.PrivateCluster;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Optional;

/**
 * Instead of starting the server: {@code --jamjar.backup=FILE} writes all of the store into a file,
 * {@code --jamjar.restore=FILE} puts what a file holds in its place.
 */
final class CopyCommand {
  private static final String DATABASE = "postgres";

  private CopyCommand() {}

  /**
   * Runs it, if it is one.
   *
   * @return what the process ends with: 0 when it was done, 1 when it was not; empty when the
   *     server is to be started
   */
  static Optional<Integer> run(String[] args) {
    Optional<Path> to = option(args, "--jamjar.backup=");
    Optional<Path> from = option(args, "--jamjar.restore=");
    if (to.isEmpty() && from.isEmpty()) {
      return Optional.empty();
    }
    PrivateCluster cluster =
        new PrivateCluster(option(args, "--jamjar.data=").orElseThrow().resolve("store"));
    try {
      boolean ran = cluster.running();
      if (from.isPresent() && ran) {
        return failed("The store is in use: stop it first.");
      }
      if (from.isPresent() && !Files.isReadable(from.get())) {
        return failed("There is no file " + from.get() + " that can be read.");
      }
      if (!ran) {
        cluster.start(StoreConfiguration.Cluster.SETTINGS);
      }
      try {
        ClusterCopy copy = new ClusterCopy(cluster);
        to.ifPresent(file -> copy.write(DATABASE, file));
        from.ifPresent(file -> copy.restore(file, DATABASE));
      } finally {
        if (!ran) {
          cluster.stop();
        }
      }
      return Optional.of(0);
    } catch (ClusterFailed e) {
      return failed(e.getMessage());
    }
  }

  private static Optional<Integer> failed(String why) {
    System.err.println("jamjar: " + why);
    return Optional.of(1);
  }

  private static Optional<Path> option(String[] args, String name) {
    return Arrays.stream(args)
        .filter(arg -> arg.startsWith(name))
        .findFirst()
        .map(arg -> Path.of(arg.substring(name.length())));
  }
}
