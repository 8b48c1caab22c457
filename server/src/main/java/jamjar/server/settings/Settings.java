package jamjar.server.settings;

import java.nio.file.Path;
import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;
import org.springframework.util.unit.DataSize;

/**
 * What can be set from outside.
 *
 * @param data the data folder: the key of the passwords, and the private cluster where no database
 *     is given
 * @param database a database elsewhere; without an address a private cluster on loopback is started
 * @param keep how long what was read is kept
 * @param journal how long the journal may become while the database is away
 */
@ConfigurationProperties("jamjar")
public record Settings(
    Path data,
    @DefaultValue Database database,
    @DefaultValue Keep keep,
    @DefaultValue("4GB") DataSize journal) {

  /** A PostgreSQL database for Jam Jar's own use. */
  public record Database(
      @DefaultValue("") String url,
      @DefaultValue("") String user,
      @DefaultValue("") String password) {}

  /**
   * How long is kept at least, in whole days. Steps of 15 minutes are kept for ever.
   *
   * @param readings what was read, as it was read
   * @param minutes steps of a minute
   */
  public record Keep(
      @DefaultValue("56d") Duration readings, @DefaultValue("180d") Duration minutes) {}
}
