package jamjar.server.security;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * Who else may say who somebody is, by OpenID Connect; without an issuer nobody.
 *
 * @param issuer its address, without what is appended to find its description
 * @param client as what Jam Jar is known there
 * @param secret by which it knows Jam Jar; empty where it stands in a file
 * @param secretFile a file that holds it; empty where it is given
 * @param name what it is called where one signs in
 * @param groups the claim that tells the groups of somebody
 */
@ConfigurationProperties("jamjar.sign-on")
public record SignOn(
    @DefaultValue("") String issuer,
    @DefaultValue("jamjar") String client,
    @DefaultValue("") String secret,
    @DefaultValue("") String secretFile,
    @DefaultValue("single sign-on") String name,
    @DefaultValue("groups") String groups) {

  /** Where one goes to be known there. */
  public static final String PATH = "/sign-on";

  public boolean isThere() {
    return !issuer.isEmpty();
  }

  /**
   * @throws CannotStart where it can't be relied on, or asked
   */
  public SignOn checked() {
    if (!isThere()) {
      return this;
    }
    URI address;
    try {
      address = URI.create(issuer);
    } catch (IllegalArgumentException e) {
      throw new CannotStart("jamjar.sign-on.issuer is no address: " + e.getMessage());
    }
    boolean here = FrontDoor.isHere(String.valueOf(address.getHost()));
    if (!"https".equals(address.getScheme()) && !(here && "http".equals(address.getScheme()))) {
      throw new CannotStart("jamjar.sign-on.issuer is to be an https address, but on loopback.");
    }
    if (secretText().isEmpty()) {
      throw new CannotStart("jamjar.sign-on.secret-file is to hold the secret of " + client + ".");
    }
    return this;
  }

  /** By what it knows Jam Jar. */
  public String secretText() {
    if (secretFile.isEmpty()) {
      return secret;
    }
    try {
      return Files.readString(Path.of(secretFile)).strip();
    } catch (IOException e) {
      throw new CannotStart("jamjar.sign-on.secret-file can't be read: " + e.getMessage());
    }
  }

  @Override
  public String toString() {
    return issuer + " as " + client;
  }
}
