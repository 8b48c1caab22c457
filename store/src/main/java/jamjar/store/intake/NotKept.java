package jamjar.store.intake;

/** The journal could not be written: what was to be kept is not. */
public final class NotKept extends RuntimeException {
  private static final long serialVersionUID = 1L;

  NotKept(String why, Throwable cause) {
    super(why, cause);
  }
}
