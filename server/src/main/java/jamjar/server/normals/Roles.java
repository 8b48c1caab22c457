package jamjar.server.normals;

import jamjar.core.baseline.Timeline.LeftOut;
import jamjar.store.facts.FactRow;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** What an instance was before: as a reader nothing is as it is as a writer. */
final class Roles {
  /** The name of the fact that tells it. */
  static final String FACT = "role";

  private Roles() {}

  /** Whether it has another role than it had at a moment. */
  static boolean changedSince(List<FactRow> roles, Instant at) {
    return roles.stream().skip(1).anyMatch(role -> role.from().isAfter(at));
  }

  /**
   * When an instance had another role than it has now. Before any is known it had the first one.
   *
   * @param roles that it ever had, in order
   * @param from epoch ms
   * @param to its end
   */
  static List<LeftOut> others(List<FactRow> roles, long from, long to) {
    List<LeftOut> found = new ArrayList<>();
    for (int i = 0; i < roles.size(); i++) {
      FactRow role = roles.get(i);
      long begins = i == 0 ? from : Math.max(from, role.from().toEpochMilli());
      long ends = i + 1 == roles.size() ? to : Math.min(to, roles.get(i + 1).from().toEpochMilli());
      if (!role.value().equals(roles.get(roles.size() - 1).value()) && begins < ends) {
        found.add(new LeftOut(begins, ends, "role: " + role.value()));
      }
    }
    return found;
  }
}
