package jamjar.server.security;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jamjar.server.problems.ProblemWriter;
import java.io.IOException;
import java.net.URI;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.core.env.Environment;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * A page from elsewhere that the same browser shows must not be able to talk to the server: the
 * Host must be one of its names, and the Origin, where there is one, must be this server. From
 * another machine nothing is taken in the clear.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class FrontDoor extends OncePerRequestFilter {
  private static final Set<String> HERE = Set.of("127.0.0.1", "localhost", "[::1]");
  private static final Pattern LOOPBACK = Pattern.compile("127(\\.\\d{1,3}){3}|[0:]*:0*1");
  private static final String YEAR = "max-age=31536000";
  private final Set<String> names = new HashSet<>(HERE);
  private final ProblemWriter problems;

  FrontDoor(Environment environment, ProblemWriter problems) {
    for (String name : Listening.of(environment).names()) {
      names.add(name.toLowerCase(Locale.ROOT));
    }
    this.problems = problems;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String host = request.getHeader("Host");
    String name = host == null ? "" : host.replaceFirst(":\\d+$", "").toLowerCase(Locale.ROOT);
    if (!names.contains(name)) {
      refuse(response, "This server does not answer to that name; jamjar.names says which it has.");
      return;
    }
    String origin = request.getHeader("Origin");
    if (origin != null && !sameOrigin(origin, host)) {
      refuse(response, "This request comes from a page of another server and was refused.");
      return;
    }
    if (!request.isSecure() && !isHere(request.getRemoteAddr())) {
      refuse(response, "From another machine this server is asked by https only.");
      return;
    }
    if (request.isSecure()) {
      response.setHeader("Strict-Transport-Security", YEAR);
    }
    response.setHeader("X-Content-Type-Options", "nosniff");
    response.setHeader("X-Frame-Options", "DENY");
    response.setHeader("Referrer-Policy", "no-referrer");
    response.setHeader(
        "Content-Security-Policy",
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src"
            + " 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self';"
            + " frame-ancestors 'none'");
    chain.doFilter(request, response);
  }

  /** An address, never a name: nothing is looked up, whatever a proxy passes on. */
  static boolean isHere(String address) {
    return LOOPBACK.matcher(address).matches();
  }

  private static boolean sameOrigin(String origin, String host) {
    try {
      String authority = URI.create(origin).getAuthority();
      return authority != null && authority.equalsIgnoreCase(host);
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  private void refuse(HttpServletResponse response, String detail) throws IOException {
    problems.write(response, HttpStatus.FORBIDDEN, "elsewhere", detail);
  }
}
