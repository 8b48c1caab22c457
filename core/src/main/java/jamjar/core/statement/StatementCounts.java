package jamjar.core.statement;

/**
 * What an engine counted of a statement's finished executions over a time.
 *
 * @param timeUs from their beginning to their end, waiting for locks and slow clients included
 * @param rows returned or changed
 * @param hit blocks found in the shared buffers
 * @param read blocks read from the operating system
 * @param temporary blocks written to temporary files
 */
public record StatementCounts(
    long calls, long timeUs, long rows, long hit, long read, long temporary) {
  public static final StatementCounts NONE = new StatementCounts(0, 0, 0, 0, 0, 0);

  public StatementCounts plus(StatementCounts more) {
    return new StatementCounts(
        calls + more.calls,
        timeUs + more.timeUs,
        rows + more.rows,
        hit + more.hit,
        read + more.read,
        temporary + more.temporary);
  }
}
