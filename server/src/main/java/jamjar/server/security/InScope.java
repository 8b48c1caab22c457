package jamjar.server.security;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jamjar.server.problems.ProblemWriter;
import jamjar.server.security.Permits.Bound;
import java.io.IOException;
import java.util.Map;
import java.util.regex.Pattern;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Keeps those who have a scope from what is not in it, as far as the path says what that is: it is
 * answered in the same words as what is not there at all.
 */
@Component
class InScope extends OncePerRequestFilter {
  private static final Pattern PLAIN = Pattern.compile("[0-9]{1,18}");

  private final Guards guards;
  private final ProblemWriter problems;

  InScope(Guards guards, ProblemWriter problems) {
    this.guards = guards;
    this.problems = problems;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    if (Scopes.isAll()) {
      chain.doFilter(request, response);
      return;
    }
    String method = request.getMethod();
    String path = request.getRequestURI();
    if (Permits.of(method, path).filter(row -> row.bound() == Bound.WHOLE).isPresent()) {
      problems.write(response, HttpStatus.FORBIDDEN, "scope", Scopes.beyond().getMessage());
      return;
    }
    for (Map.Entry<String, String> named : Permits.named(method, path).entrySet()) {
      if (guards.know(named.getKey()) && hidden(named.getKey(), named.getValue(), response)) {
        return;
      }
    }
    chain.doFilter(request, response);
  }

  private boolean hidden(String kind, String id, HttpServletResponse response) throws IOException {
    // a number written in any other way is none: whoever reads it next may read it otherwise
    if (PLAIN.matcher(id).matches() && guards.see(kind, Long.parseLong(id))) {
      return false;
    }
    problems.write(
        response, HttpStatus.NOT_FOUND, "unknown", "There is no " + kind + " " + id + ".");
    return true;
  }
}
