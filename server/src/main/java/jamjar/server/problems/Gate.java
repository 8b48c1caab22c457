package jamjar.server.problems;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.function.BooleanSupplier;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.HandlerExceptionResolver;

/**
 * What is asked of the API while the database does not answer is told so at once; nobody sends more
 * than is taken; and what goes wrong before a controller is reached is told as what goes wrong in
 * one.
 */
public final class Gate extends OncePerRequestFilter {
  /** The largest that is taken is a file of a thousand instances with their certificates. */
  static final long MOST_BYTES = 6_000_000;

  /** What works without the database. */
  private static final List<String> WITHOUT =
      List.of("/api/health", "/api/live", "/api/openapi.json");

  private final BooleanSupplier away;
  private final ProblemWriter problems;
  private final HandlerExceptionResolver told;

  /**
   * @param away whether the database does not answer
   * @param told tells what went wrong
   */
  public Gate(BooleanSupplier away, ProblemWriter problems, HandlerExceptionResolver told) {
    this.away = away;
    this.problems = problems;
    this.told = told;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String path = request.getRequestURI();
    if (path.startsWith("/api/") && !WITHOUT.contains(path) && away.getAsBoolean()) {
      problems.away(response);
      return;
    }
    try {
      chain.doFilter(new Bounded(request), response);
    } catch (RuntimeException e) {
      if (response.isCommitted() || told.resolveException(request, response, null, e) == null) {
        throw e;
      }
    }
  }

  private static Problem tooMuch() {
    return Problem.tooMuch("More than " + MOST_BYTES / 1_000_000 + " MB are not taken at once.");
  }

  /** A request whose body ends with an error where it is too long. */
  private static final class Bounded extends HttpServletRequestWrapper {
    Bounded(HttpServletRequest request) {
      super(request);
    }

    @Override
    public ServletInputStream getInputStream() throws IOException {
      if (getContentLengthLong() > MOST_BYTES) {
        throw tooMuch();
      }
      ServletInputStream in = super.getInputStream();
      return new ServletInputStream() {
        private long read;

        private int counted(int bytes) {
          read += Math.max(0, bytes);
          if (read > MOST_BYTES) {
            throw tooMuch();
          }
          return bytes;
        }

        @Override
        public int read() throws IOException {
          int one = in.read();
          counted(one < 0 ? 0 : 1);
          return one;
        }

        @Override
        public int read(byte[] into, int from, int most) throws IOException {
          return counted(in.read(into, from, most));
        }

        @Override
        public boolean isFinished() {
          return in.isFinished();
        }

        @Override
        public boolean isReady() {
          return in.isReady();
        }

        @Override
        public void setReadListener(ReadListener listener) {
          in.setReadListener(listener);
        }
      };
    }
  }
}
