package jamjar.server.instances;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;

/**
 * An instance as a person describes it. Intervals in seconds.
 *
 * @param uses the instances that it uses, by name: NAME, or THROUGH=NAME for a pool that leads
 *     there; null leaves them as they are
 */
public record InstanceBody(
    @NotBlank(message = "is missing") @Size(max = 80) String name,
    @NotBlank
        @Pattern(
            regexp = "postgresql|jvm|appserver",
            message = "is not a kind that can be watched yet")
        String kind,
    @NotNull @Size(max = 80) String group,
    @NotNull @Size(max = 80) String site,
    @NotNull @Size(max = 80) String machine,
    @NotNull List<String> tags,
    @NotNull @Valid Endpoint endpoint,
    @NotNull @Valid Credential credential,
    @NotBlank(message = "is missing: of which make is it?") String recipe,
    @Min(1) @Max(3600) int interval,
    @NotBlank(message = "is missing") String zone,
    @Schema(requiredMode = Schema.RequiredMode.NOT_REQUIRED) @Size(max = MOST_USES)
        List<@NotBlank @Size(max = 160) String> uses) {
  static final int MOST_USES = 40;

  /**
   * Where it answers.
   *
   * @param port 0 for a JVM of this machine that is attached to
   * @param database of a database engine the database to sign in to; of a JVM that is attached to
   *     the start of its command
   */
  @Schema(name = "Endpoint")
  public record Endpoint(
      @NotNull @Size(max = 255) String host,
      @Min(0) @Max(65535) int port,
      @NotNull @Size(max = 255) String database,
      @NotBlank @Pattern(regexp = "off|encrypted|checked", message = "is off, encrypted or checked")
          String tls,
      @NotNull @Size(max = 100_000) String ca) {}

  /**
   * Whom to sign in as; when changing an instance, no secret keeps the one that is stored.
   *
   * @param name a stored credential that is used in place of user and secret; null or empty for
   *     none
   */
  @Schema(name = "Credential")
  public record Credential(
      @NotNull @Size(max = 63) String user,
      @Schema(types = {"string", "null"}) String secret,
      @Schema(
              types = {"string", "null"},
              requiredMode = Schema.RequiredMode.NOT_REQUIRED)
          String name) {

    /** Whether a stored one is used. */
    public boolean named() {
      return name != null && !name.isBlank();
    }

    @Override
    public String toString() {
      return user;
    }
  }
}
