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
 * @param samples how often the sessions of an engine are sampled, in whole seconds
 * @param journal how long the journal may become while the database is away
 */
@ConfigurationProperties("jamjar")
public record Settings(
    Path data,
    @DefaultValue Database database,
    @DefaultValue("4GB") DataSize journal,
    @DefaultValue("5s") Duration samples) {

  /** A PostgreSQL database for Jam Jar's own use. */
  public record Database(
      @DefaultValue("") String url,
      @DefaultValue("") String user,
      @DefaultValue("") String password) {}
}
