package jamjar.server.telling;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.net.URI;

/**
 * By what is told, as a person sets it.
 *
 * @param mail where it is mail; else null
 * @param hook where it is a web hook; else null
 * @param secret the password, or what hooks are signed with: taken in, never given out; null for
 *     the one that is stored, empty for none
 */
@Schema(name = "ChannelBody")
record ChannelBody(
    @Schema(types = {"object", "null"}) @Valid Mail mail,
    @Schema(types = {"object", "null"}) @Valid Hook hook,
    @Schema(types = {"string", "null"}) @Size(max = 500) String secret) {

  /**
   * A mail server.
   *
   * @param tls off, starttls or tls
   * @param ca certificates in PEM that are trusted; empty for those of the machine
   * @param user empty for none
   * @param from the address that messages come from
   */
  @Schema(name = "ChannelMail")
  record Mail(
      @NotBlank @Pattern(regexp = "[A-Za-z0-9.:_-]{1,253}", message = "is a name or an address")
          String host,
      @Min(1) @Max(65535) int port,
      @NotNull @Pattern(regexp = "off|starttls|tls", message = "is off, starttls or tls")
          String tls,
      @NotNull @Size(max = 100_000) String ca,
      @NotNull @Size(max = 200) String user,
      @NotBlank @Size(max = 200) String from) {}

  /**
   * A web hook.
   *
   * @param url told without what stands behind its host; that stands for the one that is stored
   * @param template JSON with what is put in for {{subject}} and others; empty for all there is
   */
  @Schema(name = "ChannelHook")
  record Hook(
      @NotBlank @Size(max = 1000) String url,
      @NotNull @Size(max = 100_000) String ca,
      @NotNull @Size(max = 10_000) String template) {

    /** Stands for what is not told of an address. */
    static final String HIDDEN = "/…";

    URI uri() {
      return URI.create(url);
    }

    /** The same without what is secret of the address: often all behind the host. */
    Hook told() {
      return new Hook(place() + HIDDEN, ca, template);
    }

    /** The same at an address. */
    Hook at(String whole) {
      return new Hook(whole, ca, template);
    }

    /** What the secret is typed for. */
    String place() {
      URI uri = uri();
      return uri.getScheme() + "://" + uri.getAuthority();
    }
  }

  @Override
  public String toString() {
    return mail != null ? "mail" : "hook";
  }
}
