package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

class OpenApiTest {
  private static final JsonMapper JSON =
      JsonMapper.builder()
          .enable(SerializationFeature.INDENT_OUTPUT)
          .enable(MapperFeature.SORT_PROPERTIES_ALPHABETICALLY)
          .build();

  @Test
  void the_committed_description_is_what_the_server_tells() throws Exception {
    try (RunningServer server = new RunningServer()) {
      JsonNode told = JSON.readTree(server.get("/api/openapi.json").toString());
      JsonNode kept = JSON.readTree(Files.readString(Path.of("openapi.json")));
      Files.writeString(Path.of("target/openapi.json"), JSON.writeValueAsString(told));
      assertThat(told)
          .as("server/openapi.json; made anew: server/target/openapi.json")
          .isEqualTo(kept);
    }
  }
}
