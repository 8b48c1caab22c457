package jamjar.server.telling;

/**
 * What became of one attempt.
 *
 * @param answer what the other side said, or why it could not be asked
 */
record Outcome(State state, String answer) {
  /** How it ended. */
  enum State {
    SENT,
    /** It may get through later. */
    AGAIN,
    /** It never will. */
    REFUSED
  }

  private static final int LONGEST = 300;

  Outcome {
    answer = Addresses.head(answer == null || answer.isBlank() ? "no reason was told" : answer);
    answer = answer.length() > LONGEST ? answer.substring(0, LONGEST) : answer;
  }
}
