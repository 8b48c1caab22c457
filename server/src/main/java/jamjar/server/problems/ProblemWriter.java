package jamjar.server.problems;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Tells a problem where no controller is reached. */
@Component
public class ProblemWriter {
  private final JsonMapper json;

  ProblemWriter(JsonMapper json) {
    this.json = json;
  }

  /**
   * @param type without its namespace
   * @param detail a sentence for the person
   */
  public void write(HttpServletResponse response, HttpStatus status, String type, String detail)
      throws IOException {
    write(response, ProblemHandler.detail(status, "urn:jamjar:" + type, detail));
  }

  /** The database does not answer. */
  public void away(HttpServletResponse response) throws IOException {
    write(response, ProblemHandler.away());
  }

  void write(HttpServletResponse response, ProblemDetail detail) throws IOException {
    response.setStatus(detail.getStatus());
    response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
    response.setCharacterEncoding(StandardCharsets.UTF_8);
    response.getWriter().write(json.writeValueAsString(detail));
  }
}
