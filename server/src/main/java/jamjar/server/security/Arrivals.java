package jamjar.server.security;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Finds out who asks, before it is decided whether they may. */
@Component
class Arrivals extends OncePerRequestFilter {
  private final LetIn letIn;

  Arrivals(LetIn letIn) {
    this.letIn = letIn;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    // what holds no data is given to anybody, without asking who it is
    if (request.getRequestURI().startsWith("/api/")) {
      try {
        letIn.by(request).ifPresent(Arrivals::is);
      } catch (RuntimeException e) {
        // how the server is is told all the same, as to a stranger
        if (!request.getRequestURI().equals("/api/health")) {
          throw e;
        }
      }
    }
    chain.doFilter(request, response);
  }

  private static void is(Actor actor) {
    SecurityContext context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(
        UsernamePasswordAuthenticationToken.authenticated(actor, null, List.of()));
    SecurityContextHolder.setContext(context);
  }
}
