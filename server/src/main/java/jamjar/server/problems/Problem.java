package jamjar.server.problems;

import jamjar.core.failure.Causes;
import java.util.Optional;
import org.springframework.http.HttpStatus;

/** Something a person asked for that cannot be done, told as a problem document (RFC 9457). */
public final class Problem extends RuntimeException {
  private final HttpStatus status;
  private final String type;
  private final String field;
  private final transient Object checks;

  private Problem(HttpStatus status, String type, String detail, String field, Object checks) {
    super(detail);
    this.status = status;
    this.type = type;
    this.field = field;
    this.checks = checks;
  }

  /** There is no such thing. */
  public static Problem unknown(String what) {
    return new Problem(HttpStatus.NOT_FOUND, "unknown", what, "", null);
  }

  /** A field of the request is at fault. */
  public static Problem field(String field, String detail) {
    return new Problem(HttpStatus.UNPROCESSABLE_CONTENT, "field", detail, field, null);
  }

  /** A target was asked for it and could not be. */
  public static Problem noAnswer(String detail) {
    return new Problem(HttpStatus.BAD_GATEWAY, "no-answer", detail, "", null);
  }

  /** Who asks is not known by what was given. */
  public static Problem unknownHere(String detail) {
    return new Problem(HttpStatus.UNAUTHORIZED, "not-let-in", detail, "", null);
  }

  /** It is about more than who asks may change. */
  public static Problem beyond(String detail) {
    return new Problem(HttpStatus.FORBIDDEN, "scope", detail, "", null);
  }

  /** Tried too often. */
  public static Problem slower(String detail) {
    return new Problem(HttpStatus.TOO_MANY_REQUESTS, "slower", detail, "", null);
  }

  /** There is no room for it just now. */
  public static Problem busy(String detail) {
    return new Problem(HttpStatus.SERVICE_UNAVAILABLE, "busy", detail, "", null);
  }

  /** The target did not pass its checks. */
  public static Problem checks(String detail, Object checks) {
    return new Problem(HttpStatus.UNPROCESSABLE_CONTENT, "checks-failed", detail, "", checks);
  }

  /** The problem that a failure comes from. */
  static Optional<Problem> in(Throwable failure) {
    return Causes.of(failure, Problem.class);
  }

  /** More was sent than is taken. */
  static Problem tooMuch(String detail) {
    return new Problem(HttpStatus.CONTENT_TOO_LARGE, "too-much", detail, "", null);
  }

  HttpStatus status() {
    return status;
  }

  String type() {
    return "urn:jamjar:" + type;
  }

  public String field() {
    return field;
  }

  Object checks() {
    return checks;
  }
}
