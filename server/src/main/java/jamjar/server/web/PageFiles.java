package jamjar.server.web;

import java.time.Duration;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.EncodedResourceResolver;

/**
 * The files of the front end. Each has its content in its name: a browser that has one asks for it
 * no more. They are there compressed.
 */
@Configuration
class PageFiles implements WebMvcConfigurer {
  private static final Duration KEPT = Duration.ofDays(365);

  @Override
  public void addResourceHandlers(ResourceHandlerRegistry registry) {
    registry
        .addResourceHandler("/assets/**")
        .addResourceLocations("classpath:/static/assets/")
        .setCacheControl(CacheControl.maxAge(KEPT).cachePrivate().immutable())
        .resourceChain(true)
        .addResolver(new EncodedResourceResolver());
  }
}
