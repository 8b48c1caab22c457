package jamjar.server.security;

/** The server does not start as it is set: to be told in words, and to be mended by a person. */
public final class CannotStart extends RuntimeException {
  private static final long serialVersionUID = 1L;

  /** What a process ends with that must not be started again as it is. */
  public static final int STATUS = 4;

  public CannotStart(String message) {
    super(message);
  }
}
