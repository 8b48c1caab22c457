package jamjar.core.group;

import java.util.Collection;

/**
 * One instance of a group at a site.
 *
 * @param since since when it stands so, epoch ms
 */
public record Member(String name, String group, String site, Standing standing, long since) {

  /** The same where its site is known: of one that is silent with all of it nothing is known. */
  public Member behind(Collection<SiteCount> sites) {
    boolean away =
        standing == Standing.SILENT
            && sites.stream().anyMatch(s -> s.site().equals(site) && s.unreachable());
    return away ? new Member(name, group, site, Standing.NOT_KNOWN, since) : this;
  }

  /** How an instance stands when heads are counted. */
  public enum Standing {
    ANSWERS,
    /** It was asked, and nothing answered. */
    SILENT,
    /** Something there answered, and it could not be read. */
    UNREACHABLE,
    /** It was not asked yet, or cannot be, as its whole site cannot. */
    NOT_KNOWN,
    /** Paused, or in maintenance: it is not expected. */
    RESTING;

    boolean away() {
      return this == SILENT || this == UNREACHABLE;
    }
  }
}
