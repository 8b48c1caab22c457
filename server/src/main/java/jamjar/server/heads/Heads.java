package jamjar.server.heads;

import java.util.Map;

/** How Jam Jar tells of groups and sites among its own counters and facts. */
public final class Heads {
  /** Begins the name of a fact that tells who is missing or too many. */
  public static final String FACT = "heads/";

  /** The label that names a group. */
  public static final String GROUP = "group";

  /** The label that names a site. */
  public static final String SITE = "site";

  /** The counter of how many of a group are missing. */
  public static final String MISSING = "heads.missing";

  /** The counter of how much of a site is silent, in %. */
  public static final String SILENT_SHARE = "site.silent_share";

  private Heads() {}

  /** The name of the fact that tells how a group, or a site, stands; empty of anything else. */
  public static String fact(Map<String, String> labels) {
    if (labels.containsKey(GROUP)) {
      return FACT + GROUP + "/" + labels.get(GROUP);
    }
    return labels.containsKey(SITE) ? FACT + SITE + "/" + labels.get(SITE) : "";
  }
}
