package jamjar.server.sessions;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.core.session.Fingerprint;
import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * One session at the moment of a sample.
 *
 * @param pid below 0 for a prepared transaction
 * @param started when it began, epoch ms by the engine's clock
 * @param kind what it is there for
 * @param program of a prepared transaction its identifier
 * @param client address; empty for the engine's own machine
 * @param waitsFor what it waits for, in the engine's words; empty where it tells of none
 * @param statement fingerprint; empty for none
 * @param text without the values in it; empty where it is not known
 * @param last whether it has run the statement and does not run it now
 * @param waitedMs how long it has waited for a lock
 * @param atMost whether that may be less: since when it waits is not told
 * @param statementMs how long it has run, or ago it began
 * @param stateMs how long it has been as it is
 * @param holds what its transaction holds: "changes", "a snapshot", "locks"
 * @param workers how many parallel workers help it
 * @param blockers whom it waits for
 * @param behind how many wait directly for it
 */
@Schema(name = "Session")
public record SessionView(
    int pid,
    long started,
    String kind,
    String user,
    String program,
    String module,
    String database,
    String client,
    String state,
    String waitKind,
    String waitsFor,
    String statement,
    String text,
    boolean last,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long waitedMs,
    boolean atMost,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long statementMs,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long transactionMs,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long stateMs,
    List<String> holds,
    int workers,
    List<Integer> blockers,
    int behind) {

  static SessionView of(Session session, Sample sample, Map<Long, String> texts) {
    Session.Since since = session.since();
    long waited = session.waitedMs(sample.engineAt());
    boolean idle = session.state() != Session.State.ACTIVE;
    return new SessionView(
        session.pid(),
        session.who().started(),
        session.who().kind().words(),
        session.who().user(),
        session.who().program(),
        session.module(),
        session.who().database(),
        session.who().client(),
        session.state().words(),
        session.waitsFor().kind(),
        session.waitsFor().event(),
        Fingerprint.hex(session.statement()),
        texts.getOrDefault(session.statement(), ""),
        idle,
        waited < 0 ? null : waited,
        session.waitedAtMost(),
        age(since.statement(), sample),
        age(since.transaction(), sample),
        age(since.state(), sample),
        holds(session, sample),
        (int) sample.sessions().stream().filter(s -> s.leader() == session.pid()).count(),
        session.blockers(),
        (int) sample.sessions().stream().filter(s -> s.blockers().contains(session.pid())).count());
  }

  private static Long age(long since, Sample sample) {
    return since == 0 ? null : Math.max(0, sample.engineAt() - since);
  }

  private static List<String> holds(Session session, Sample sample) {
    List<String> holds = new ArrayList<>();
    if ((session.holds() & Session.XID) != 0) {
      holds.add("changes");
    }
    if ((session.holds() & Session.SNAPSHOT) != 0) {
      holds.add("a snapshot");
    }
    if (sample.locks().stream().anyMatch(l -> l.granted() && l.pid() == session.pid())) {
      holds.add("locks");
    }
    return holds;
  }
}
