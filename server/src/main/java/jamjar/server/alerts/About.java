package jamjar.server.alerts;

import jamjar.server.heads.Heads;
import jamjar.server.security.Sight;
import jamjar.store.alerts.AlertRow;
import jamjar.store.instances.InstanceRow;
import java.util.Optional;

/**
 * What an alert is about, where that is not the instance that counts it.
 *
 * @param subject the name of the instance, of the group, or of the site
 * @param group empty where it is not about a group
 * @param site empty where it is not about a site
 */
record About(String subject, String group, String site) {

  /**
   * @param instance null where it is gone
   */
  static About of(AlertRow row, InstanceRow instance) {
    boolean own = instance != null && instance.kind().equals(InstanceRow.OWN);
    String group = own ? row.labels().getOrDefault(Heads.GROUP, "") : "";
    String site = own ? row.labels().getOrDefault(Heads.SITE, "") : "";
    if (!group.isEmpty() || !site.isEmpty()) {
      return new About(group.isEmpty() ? site : group, group, site);
    }
    String name = instance == null ? "instance " + row.instance() + ", removed" : instance.name();
    return new About(name, "", "");
  }

  /** The instances of which there can be alerts in a scope: Jam Jar counts of groups and sites. */
  static Integer[] of(Sight sight) {
    return sight.scope().isAll()
        ? null
        : sight.all().stream()
            .filter(row -> sight.scope().holds(row) || row.kind().equals(InstanceRow.OWN))
            .map(InstanceRow::id)
            .toArray(Integer[]::new);
  }

  /**
   * Whether it is about what is in a scope. One that counts many is about all of them, of which
   * none is out of it then.
   */
  static boolean isSeen(AlertRow row, Sight sight) {
    if (sight.scope().isAll() || sight.holds(row.instance())) {
      return true;
    }
    Optional<InstanceRow> instance =
        sight.all().stream().filter(one -> one.id() == row.instance()).findFirst();
    About about = of(row, instance.orElse(null));
    if (about.ofInstance()) {
      return false;
    }
    return about.group.isEmpty()
        ? sight.owns("site", about.site)
        : about.site.isEmpty()
            ? sight.owns("group", about.group)
            : sight.ownsGroup(about.group, about.site);
  }

  boolean ofInstance() {
    return group.isEmpty() && site.isEmpty();
  }
}
