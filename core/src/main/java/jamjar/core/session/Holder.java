package jamjar.core.session;

import java.util.OptionalInt;

/**
 * Who keeps others waiting, as it is known again on another day: its process is another one then.
 *
 * @param statement fingerprint of what it runs, or ran last
 */
public record Holder(String user, String program, long statement) {

  public static Holder of(Session session) {
    return new Holder(session.who().user(), session.who().program(), session.statement());
  }

  /** How many wait for one like it in a sample; empty where it keeps nobody waiting. */
  public OptionalInt keeps(Sample sample) {
    int waiting = 0;
    for (Session session : sample.sessions()) {
      if (equals(of(session))) {
        int pid = session.pid();
        waiting += (int) sample.sessions().stream().filter(s -> s.blockers().contains(pid)).count();
      }
    }
    return waiting == 0 ? OptionalInt.empty() : OptionalInt.of(waiting);
  }
}
