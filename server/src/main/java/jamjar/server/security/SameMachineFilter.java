package jamjar.server.security;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.Set;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * A page from elsewhere that the same browser shows must not be able to talk to loopback: the Host
 * must be this machine, and the Origin, where there is one, must be this server.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class SameMachineFilter extends OncePerRequestFilter {
  private static final Set<String> HERE = Set.of("127.0.0.1", "localhost", "[::1]");

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String host = request.getHeader("Host");
    String name = host == null ? "" : host.replaceFirst(":\\d+$", "");
    if (!HERE.contains(name)) {
      refuse(response, "This server answers to 127.0.0.1 and localhost only.");
      return;
    }
    String origin = request.getHeader("Origin");
    if (origin != null && !sameOrigin(origin, host)) {
      refuse(response, "This request comes from a page of another server and was refused.");
      return;
    }
    response.setHeader("X-Content-Type-Options", "nosniff");
    response.setHeader("X-Frame-Options", "DENY");
    response.setHeader("Referrer-Policy", "no-referrer");
    response.setHeader(
        "Content-Security-Policy",
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src"
            + " 'self' data:; frame-ancestors 'none'");
    chain.doFilter(request, response);
  }

  private static boolean sameOrigin(String origin, String host) {
    try {
      return URI.create(origin).getAuthority() != null
          && URI.create(origin).getAuthority().equals(host);
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  private static void refuse(HttpServletResponse response, String detail) throws IOException {
    response.setStatus(HttpServletResponse.SC_FORBIDDEN);
    response.setContentType("application/problem+json");
    response
        .getWriter()
        .write(
            "{\"type\":\"urn:jamjar:elsewhere\",\"title\":\"Refused\",\"status\":403,\"detail\":\""
                + detail
                + "\"}");
  }
}
