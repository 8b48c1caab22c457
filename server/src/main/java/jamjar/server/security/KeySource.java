package jamjar.server.security;

import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * Where the key of the stored passwords comes from: 32 bytes, in Base64 or (in a file) as they are.
 * Where neither is given it lies in the data folder, and is made there.
 *
 * @param key {@code jamjar.secrets.key}, as an environment variable {@code JAMJAR_SECRETS_KEY}
 * @param keyFile a file of one's own, or a mounted secret
 * @param oldKey the key until now, where the one above is another
 * @param oldKeyFile likewise, in a file
 */
@ConfigurationProperties("jamjar.secrets")
public record KeySource(
    @DefaultValue("") String key,
    @DefaultValue("") String keyFile,
    @DefaultValue("") String oldKey,
    @DefaultValue("") String oldKeyFile) {

  static final KeySource DATA_FOLDER = new KeySource("", "", "", "");

  @Override
  public String toString() {
    return "the key of the passwords";
  }
}
