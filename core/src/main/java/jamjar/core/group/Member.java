package jamjar.core.group;

/**
 * One instance of a group at a site.
 *
 * @param since since when it stands so, epoch ms
 */
public record Member(String name, String group, String site, Standing standing, long since) {

  /** How an instance stands when heads are counted. */
  public enum Standing {
    ANSWERS,
    /** It was asked, and nothing answered. */
    SILENT,
    /** Something there answered, and it could not be read. */
    UNREACHABLE,
    /** It was not asked yet. */
    NOT_KNOWN,
    /** Paused, or in maintenance: it is not expected. */
    RESTING;

    boolean away() {
      return this == SILENT || this == UNREACHABLE;
    }
  }
}
