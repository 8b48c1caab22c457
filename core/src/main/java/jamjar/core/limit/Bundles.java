package jamjar.core.limit;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Alerts that belong together: they began within three minutes of the first of them, in one group,
 * at one site that is silent, or joined by a known link.
 */
public final class Bundles {
  /** From the first of a bundle to the beginning of any other, ms. */
  public static final long WITHIN = 180_000;

  private Bundles() {}

  /**
   * An alert that rose.
   *
   * @param since when it began, epoch ms
   * @param instance the one that it is about; 0 where it is about a group or a site
   * @param group the group that it is about; empty for none
   * @param silentSite the site, of an alert that tells of a silence there; else empty
   * @param uses the instances that it depends on
   */
  public record Risen(
      long alert, long since, int instance, String group, String silentSite, Set<Integer> uses) {

    boolean joins(Risen other) {
      return instance != 0 && instance == other.instance
          || !group.isEmpty() && group.equals(other.group)
          || !silentSite.isEmpty() && silentSite.equals(other.silentSite)
          || uses.contains(other.instance)
          || other.uses.contains(instance);
    }
  }

  /** Whether two alerts belong together, where they began at about the same time. */
  public static boolean join(Risen one, Risen other) {
    return one.joins(other);
  }

  /** Alerts that belong together, the first of them first. */
  public record Bundle(List<Risen> alerts) {
    public Bundle {
      alerts = List.copyOf(alerts);
    }

    public long first() {
      return alerts.get(0).alert();
    }

    private long since() {
      return alerts.get(0).since();
    }

    Bundle with(Risen risen) {
      List<Risen> all = new ArrayList<>(alerts);
      all.add(risen);
      return new Bundle(all);
    }
  }

  /**
   * The bundle that an alert belongs to.
   *
   * @param there the bundles that there are
   * @return the oldest of them that it joins; empty where it is the first of its own
   */
  public static Optional<Bundle> of(Risen risen, Collection<Bundle> there) {
    return there.stream()
        .filter(bundle -> Math.abs(risen.since() - bundle.since()) <= WITHIN)
        .filter(bundle -> bundle.alerts().stream().anyMatch(risen::joins))
        .min(Comparator.comparingLong(Bundle::since).thenComparingLong(Bundle::first));
  }
}
