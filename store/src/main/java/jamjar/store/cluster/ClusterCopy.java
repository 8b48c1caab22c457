package jamjar.store.cluster;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Set;

/**
 * Copies of a private cluster's database in a file, made and restored by PostgreSQL's own tools:
 * all of it as it was at one moment, whoever uses it meanwhile.
 */
public final class ClusterCopy {
  private static final String RESTORED = "jamjar_restored";

  private static final Set<PosixFilePermission> OWNER_ONLY =
      PosixFilePermissions.fromString("rw-------");

  private final PrivateCluster cluster;

  /**
   * @param cluster one that runs
   */
  public ClusterCopy(PrivateCluster cluster) {
    this.cluster = cluster;
  }

  /** Writes a database into a file; one that is there is replaced once the new one is whole. */
  public void write(String database, Path file) {
    Path made = cluster.room("copy");
    try {
      cluster.tool(
          "pg_dump",
          List.of("--format=custom", "--compress=1", "--no-owner", "--file=" + made, database));
      Path whole = file.toAbsolutePath();
      Path beside = whole.resolveSibling(file.getFileName() + ".part");
      Files.deleteIfExists(beside);
      // what was read of the watched is nobody else's
      Files.createFile(beside, PosixFilePermissions.asFileAttribute(OWNER_ONLY));
      try (OutputStream out = Files.newOutputStream(beside)) {
        Files.copy(made, out);
      }
      Files.move(beside, whole, StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException e) {
      throw new ClusterFailed("writing " + file, e.toString(), e);
    } finally {
      remove(made);
    }
  }

  /**
   * Puts what a file holds in the place of a database, which is left as it is until all of it could
   * be read.
   */
  public void restore(Path file, String database) {
    Path readable = cluster.room("copy");
    try {
      Files.copy(file, readable, StandardCopyOption.REPLACE_EXISTING);
      cluster.own(readable);
      run("drop database if exists " + RESTORED + " with (force)");
      run("create database " + RESTORED);
      cluster.tool(
          "pg_restore",
          List.of("--exit-on-error", "--no-owner", "--dbname=" + RESTORED, readable.toString()));
      run("drop database if exists " + database + " with (force)");
      run("alter database " + RESTORED + " rename to " + database);
    } catch (IOException e) {
      throw new ClusterFailed("reading " + file, e.toString(), e);
    } finally {
      remove(readable);
    }
  }

  private void run(String sql) {
    try (Connection connection =
            DriverManager.getConnection(cluster.url("template1"), "postgres", cluster.password());
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    } catch (SQLException e) {
      throw new ClusterFailed(sql, e.getMessage(), e);
    }
  }

  private static void remove(Path file) {
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      throw new ClusterFailed("removing " + file, e.toString(), e);
    }
  }
}
