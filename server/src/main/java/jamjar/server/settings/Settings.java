package jamjar.server.settings;

import java.nio.file.Path;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * What can be set from outside.
 *
 * @param data the data folder: the key of the passwords, and the private cluster where no database
 *     is given
 * @param database a database elsewhere; without an address a private cluster on loopback is started
 */
@ConfigurationProperties("jamjar")
public record Settings(Path data, @DefaultValue Database database) {

  /** A PostgreSQL database for Jam Jar's own use. */
  public record Database(
      @DefaultValue("") String url,
      @DefaultValue("") String user,
      @DefaultValue("") String password) {}
}
