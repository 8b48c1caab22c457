package jamjar.server.sessions;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * The sessions of an engine at a moment.
 *
 * @param at when they were sampled, epoch ms; null where there is no sample of that moment
 * @param every seconds between two samples; 0 where sessions are not sampled
 * @param why why there is nothing; empty where there is something
 * @param total how many there are, those that do nothing among them
 * @param pooler the address that more than four fifths of many come from; empty for none: there is
 *     a pooler, program and client are its own, and who waits in it is not seen
 * @param waiting how many wait for a lock longer than the edges, 2 s, 15 s, 45 s and 3 min
 * @param running how many run a statement longer than 5 s, 30 s, 2 min and 10 min, those that wait
 *     among them
 * @param idle those that do nothing, counted
 */
@Schema(name = "Sessions")
public record SessionsView(
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long at,
    int every,
    String why,
    int total,
    String pooler,
    List<Longer> waiting,
    List<Longer> running,
    List<SessionView> sessions,
    List<Idle> idle) {

  /** So many longer than so many ms. */
  @Schema(name = "LongerThan")
  public record Longer(long ms, int count) {}

  /** So many that do nothing. */
  @Schema(name = "IdleSessions")
  public record Idle(String user, String program, String database, int count) {}

  static SessionsView nothing(int every, String why) {
    return new SessionsView(null, every, why, 0, "", List.of(), List.of(), List.of(), List.of());
  }
}
