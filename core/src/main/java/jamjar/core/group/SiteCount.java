package jamjar.core.group;

import jamjar.core.group.Member.Standing;
import java.util.Collection;

/**
 * How many of a site's instances are silent: where half of them are, it is the way there that is
 * broken, or the site.
 *
 * @param instances those that do not rest
 * @param silent those that were asked and did not answer; who is refused was answered by the site
 */
public record SiteCount(String site, int instances, int silent) {
  private static final int LEAST = 2;
  private static final double HALF = 0.5;

  public static SiteCount of(String site, Collection<Member> members) {
    int instances = 0;
    int silent = 0;
    for (Member member : members) {
      if (member.standing() != Standing.RESTING) {
        instances++;
        silent += member.standing() == Standing.SILENT ? 1 : 0;
      }
    }
    return new SiteCount(site, instances, silent);
  }

  /** Of one instance alone nothing can be said of its site. */
  public boolean tells() {
    return instances >= LEAST;
  }

  /** 0 to 1. */
  public double share() {
    return instances == 0 ? 0 : (double) silent / instances;
  }

  /** Whether the site cannot be reached from here. */
  public boolean unreachable() {
    return silent >= LEAST && share() >= HALF;
  }

  public String words() {
    return silent + " of " + instances + " silent";
  }
}
