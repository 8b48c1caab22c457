package jamjar.server.openapi;

import io.swagger.v3.core.converter.ModelConverters;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import jamjar.server.watch.LiveReading;
import java.util.List;
import java.util.TreeSet;
import org.springdoc.core.customizers.GlobalOpenApiCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** How the API describes itself: every field is there, even where its value is null. */
@Configuration
class OpenApiConfiguration {

  @Bean
  OpenAPI description() {
    return new OpenAPI().info(new Info().title("Jam Jar").version("1"));
  }

  @Bean
  GlobalOpenApiCustomizer complete() {
    return api -> {
      api.setServers(List.of());
      // told by the live stream, which the description has no place for
      ModelConverters.getInstance(true)
          .readAll(LiveReading.class)
          .forEach((name, schema) -> api.getComponents().addSchemas(name, schema));
      api.getComponents().getSchemas().values().forEach(OpenApiConfiguration::requireAll);
    };
  }

  private static void requireAll(Schema<?> schema) {
    if (schema.getProperties() != null) {
      schema.setRequired(List.copyOf(new TreeSet<>(schema.getProperties().keySet())));
    }
  }
}
