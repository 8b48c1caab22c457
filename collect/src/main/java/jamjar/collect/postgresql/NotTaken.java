package jamjar.collect.postgresql;

import java.io.IOException;

/** What answers sends what no engine sends, or more than is taken. */
final class NotTaken extends IOException {
  private static final long serialVersionUID = 1L;

  /** Whether it does not speak the protocol at all. */
  final boolean stranger;

  NotTaken(String message) {
    this(message, false);
  }

  NotTaken(String message, boolean stranger) {
    super(message);
    this.stranger = stranger;
  }
}
