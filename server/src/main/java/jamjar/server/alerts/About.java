package jamjar.server.alerts;

import jamjar.server.heads.Heads;
import jamjar.store.alerts.AlertRow;
import jamjar.store.instances.InstanceRow;

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

  boolean ofInstance() {
    return group.isEmpty() && site.isEmpty();
  }
}
