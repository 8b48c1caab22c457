package jamjar.server.changes;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jamjar.server.changes.Changes.What;
import jamjar.server.security.Permits;
import jamjar.server.security.Role;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Configuration;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/**
 * Whatever was asked that takes more than to look, and was done, is told among the changes: where
 * nothing else told of it, by what was asked.
 */
@Configuration
class EveryChange implements WebMvcConfigurer, HandlerInterceptor {
  private static final Logger LOG = LoggerFactory.getLogger(EveryChange.class);
  private static final int REFUSED = 400;
  private final Changes changes;

  EveryChange(Changes changes) {
    this.changes = changes;
  }

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry.addInterceptor(this).addPathPatterns("/api/**");
  }

  @Override
  public void afterCompletion(
      HttpServletRequest request, HttpServletResponse response, Object handler, Exception failure) {
    if (failure != null
        || response.getStatus() >= REFUSED
        || request.getMethod().equals("GET")
        || Changes.toldIn(request)) {
      return;
    }
    boolean changing =
        Permits.of(request.getMethod(), request.getRequestURI())
            .flatMap(Permits.Row::least)
            .filter(least -> least.may(Role.ACT))
            .isPresent();
    if (changing) {
      try {
        changes.add(What.ASKED, request.getMethod() + " " + request.getRequestURI(), null, null);
      } catch (RuntimeException e) {
        // it is done: that it could not be told is for the log
        LOG.error("event=change-not-told asked=\"{}\"", request.getRequestURI(), e);
      }
    }
  }
}
