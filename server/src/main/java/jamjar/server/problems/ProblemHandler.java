package jamjar.server.problems;

import jakarta.servlet.http.HttpServletRequest;
import jamjar.core.failure.Causes;
import jamjar.store.StoreAway;
import java.io.IOException;
import java.net.URI;
import java.sql.SQLException;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.TypeMismatchException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.ServletWebRequest;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;

/**
 * Turns what went wrong into a problem document: a stable type, a sentence for the person, the
 * field at fault. What the framework refuses is told with the framework's own status.
 */
@RestControllerAdvice
class ProblemHandler extends ResponseEntityExceptionHandler {
  private static final Logger LOG = LoggerFactory.getLogger(ProblemHandler.class);

  /** SQL states of values that can't be stored, such as a text with a NUL in it. */
  private static final String DATA = "22";

  /** Of what there can be one, another was made at the same time. */
  private static final String TWICE = "23505";

  @ExceptionHandler
  ResponseEntity<Object> told(Problem problem) {
    ProblemDetail detail = detail(problem.status(), problem.type(), problem.getMessage());
    detail.setProperty("field", problem.field());
    if (problem.checks() != null) {
      detail.setProperty("checks", problem.checks());
    }
    return answer(detail);
  }

  @Override
  protected ResponseEntity<Object> handleMethodArgumentNotValid(
      MethodArgumentNotValidException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    var error = e.getBindingResult().getFieldErrors().stream().findFirst();
    String field = error.map(f -> f.getField()).orElse("");
    ProblemDetail detail =
        detail(
            HttpStatus.UNPROCESSABLE_CONTENT,
            "urn:jamjar:field",
            error.map(f -> field + " " + f.getDefaultMessage()).orElse("It is not whole."));
    detail.setProperty("field", field);
    return answer(detail);
  }

  @Override
  protected ResponseEntity<Object> handleHttpMessageNotReadable(
      HttpMessageNotReadableException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    Optional<Problem> problem = Problem.in(e);
    if (problem.isPresent()) {
      return told(problem.get());
    }
    return answer(
        detail(
            HttpStatus.BAD_REQUEST,
            "urn:jamjar:unreadable",
            "The request's body is not the JSON that is wanted here."));
  }

  @Override
  protected ResponseEntity<Object> handleTypeMismatch(
      TypeMismatchException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
    String name = e instanceof MethodArgumentTypeMismatchException of ? of.getName() : "it";
    return answer(
        detail(
            HttpStatus.BAD_REQUEST,
            "urn:jamjar:unreadable",
            "'" + shortened(e.getValue()) + "' is not a value for " + name + "."));
  }

  private static String shortened(Object value) {
    String text = String.valueOf(value);
    return text.length() > 80 ? text.substring(0, 80) + "…" : text;
  }

  /** All else that the framework refuses: no such address, another method, type or parameter. */
  @Override
  protected ResponseEntity<Object> handleExceptionInternal(
      Exception e, Object body, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
    if (request instanceof ServletWebRequest web
        && web.getResponse() != null
        && web.getResponse().isCommitted()) {
      // a live stream whose time is over: the browser opens the next one
      LOG.debug("event=ended-under-way why=\"{}\"", e.toString());
      return null;
    }
    ProblemDetail detail =
        body instanceof ProblemDetail told ? told : ProblemDetail.forStatus(status);
    boolean nothing = status.value() == HttpStatus.NOT_FOUND.value();
    detail.setType(URI.create(nothing ? "urn:jamjar:unknown" : "urn:jamjar:unreadable"));
    if (nothing) {
      detail.setDetail("There is nothing at this address.");
    }
    HttpHeaders all = new HttpHeaders();
    all.addAll(headers);
    all.setContentType(MediaType.APPLICATION_PROBLEM_JSON);
    return new ResponseEntity<>(detail, all, status);
  }

  /** The browser went away: there is nobody to tell. */
  @Override
  protected ResponseEntity<Object> handleAsyncRequestNotUsableException(
      AsyncRequestNotUsableException e, WebRequest request) {
    LOG.debug("event=client-gone");
    return null;
  }

  @ExceptionHandler
  ResponseEntity<Object> unforeseen(Exception e, HttpServletRequest request) {
    Optional<Problem> problem = Problem.in(e);
    if (problem.isPresent()) {
      return told(problem.get());
    }
    if (StoreAway.tookTooLong(e)) {
      return told(
          Problem.busy(
              "The database took too long for it. Ask again in a moment, or for less at once; what"
                  + " you entered is unchanged."));
    }
    if (StoreAway.is(e)) {
      return answer(away());
    }
    if (e instanceof IOException) {
      // it could not be told to who asked
      LOG.debug("event=client-gone why=\"{}\"", e.toString());
      return null;
    }
    if (sqlState(e).equals(TWICE)) {
      return answer(
          detail(
              HttpStatus.CONFLICT,
              "urn:jamjar:twice",
              "There is one of these already: somebody made it at the same moment. Look again."));
    }
    if (sqlState(e).startsWith(DATA)) {
      return answer(
          detail(
              HttpStatus.BAD_REQUEST,
              "urn:jamjar:unreadable",
              "It holds a character or a number that cannot be kept."));
    }
    LOG.error("event=request-failed path=\"{}\"", request.getRequestURI(), e);
    return answer(
        detail(
            HttpStatus.INTERNAL_SERVER_ERROR,
            "urn:jamjar:failed",
            "The server could not do this. Its log says why; what you entered is unchanged."));
  }

  /** Jam Jar's own database does not answer. */
  static ProblemDetail away() {
    return detail(
        HttpStatus.SERVICE_UNAVAILABLE,
        "urn:jamjar:store-away",
        "Jam Jar's own database does not answer just now. What you entered is unchanged; it is"
            + " tried again by itself.");
  }

  private static String sqlState(Throwable failure) {
    return Causes.of(failure, SQLException.class).map(SQLException::getSQLState).orElse("");
  }

  private static ResponseEntity<Object> answer(ProblemDetail detail) {
    return ResponseEntity.status(detail.getStatus())
        .contentType(MediaType.APPLICATION_PROBLEM_JSON)
        .body(detail);
  }

  static ProblemDetail detail(HttpStatus status, String type, String words) {
    ProblemDetail detail = ProblemDetail.forStatusAndDetail(status, words);
    detail.setType(URI.create(type));
    return detail;
  }
}
