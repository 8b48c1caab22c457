package jamjar.server.security;

import java.util.Locale;

/** How far somebody may go; each may what those before it may. */
public enum Role {
  /** See. */
  LOOK,
  /** Acknowledge, comment, set markers and maintenance. */
  ACT,
  /** Limits, recipes, arrangements, baselines, instances. */
  SHAPE,
  /** Accounts, credentials, what is kept. */
  ADMINISTER;

  /** As it is stored and told. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @throws IllegalArgumentException when there is none of that name
   */
  public static Role of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }

  /** Whether it may what another may. */
  public boolean may(Role other) {
    return compareTo(other) >= 0;
  }
}
