package jamjar.server.problems;

import java.net.URI;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;
import org.springframework.web.context.request.async.AsyncRequestTimeoutException;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.servlet.resource.NoResourceFoundException;

/**
 * Turns what went wrong into a problem document: a stable type, a sentence for the person, the
 * field at fault.
 */
@RestControllerAdvice
class ProblemHandler {
  private static final Logger LOG = LoggerFactory.getLogger(ProblemHandler.class);

  @ExceptionHandler
  ProblemDetail told(Problem problem) {
    ProblemDetail detail = detail(problem.status(), problem.type(), problem.getMessage());
    detail.setProperty("field", problem.field());
    if (problem.checks() != null) {
      detail.setProperty("checks", problem.checks());
    }
    return detail;
  }

  @ExceptionHandler
  ProblemDetail invalid(MethodArgumentNotValidException e) {
    var error = e.getBindingResult().getFieldErrors().get(0);
    ProblemDetail detail =
        detail(
            HttpStatus.UNPROCESSABLE_CONTENT,
            "urn:jamjar:field",
            error.getField() + " " + error.getDefaultMessage());
    detail.setProperty("field", error.getField());
    return detail;
  }

  @ExceptionHandler
  ProblemDetail unreadable(HttpMessageNotReadableException e) {
    return detail(
        HttpStatus.BAD_REQUEST,
        "urn:jamjar:unreadable",
        "The request's body is not the JSON that is wanted here.");
  }

  @ExceptionHandler
  ProblemDetail mismatch(MethodArgumentTypeMismatchException e) {
    return detail(
        HttpStatus.BAD_REQUEST,
        "urn:jamjar:unreadable",
        "'" + e.getValue() + "' is not a value for " + e.getName() + ".");
  }

  @ExceptionHandler
  ProblemDetail nowhere(NoResourceFoundException e) {
    return detail(HttpStatus.NOT_FOUND, "urn:jamjar:unknown", "There is nothing at this address.");
  }

  /** The browser went away: there is nobody to tell. */
  @ExceptionHandler
  void gone(AsyncRequestNotUsableException e) {
    LOG.debug("event=client-gone");
  }

  /** A live stream has its time; the browser opens the next one. */
  @ExceptionHandler
  void ended(AsyncRequestTimeoutException e) {
    LOG.debug("event=stream-ended");
  }

  @ExceptionHandler
  ProblemDetail unforeseen(Exception e) {
    LOG.error("event=request-failed", e);
    return detail(
        HttpStatus.INTERNAL_SERVER_ERROR,
        "urn:jamjar:failed",
        "The server could not do this. Its log says why; what you entered is unchanged.");
  }

  private static ProblemDetail detail(HttpStatus status, String type, String words) {
    ProblemDetail detail = ProblemDetail.forStatusAndDetail(status, words);
    detail.setType(URI.create(type));
    return detail;
  }
}
