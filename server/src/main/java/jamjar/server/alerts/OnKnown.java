package jamjar.server.alerts;

import jamjar.store.alerts.AlertRow;

/** Who is to hear that somebody knows of an alert. */
public interface OnKnown {
  /**
   * Somebody knows of it since just now.
   *
   * @param alert as it is after that
   */
  void known(AlertRow alert);
}
