package jamjar.collect.postgresql;

import jamjar.collect.CheckResult;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Where totals stand in the statistics views. Versions rename columns and drop some: each counter
 * has the places where it may stand, the latest first.
 */
final class Places {
  private Places() {}

  /** Which counters this version tells under another name than the oldest one, or not at all. */
  static CheckResult check(Abilities abilities) {
    Map<String, List<ViewColumn>> places =
        Stream.concat(DatabasesQuery.TOTALS.stream(), ServerQuery.TOTALS.stream())
            .collect(
                Collectors.groupingBy(
                    ViewColumn::counter, LinkedHashMap::new, Collectors.toList()));
    List<String> dropped = new ArrayList<>();
    List<String> renamed = new ArrayList<>();
    places.forEach(
        (counter, all) -> {
          ViewColumn oldest = all.get(all.size() - 1);
          all.stream()
              .filter(place -> place.in(abilities))
              .findFirst()
              .ifPresentOrElse(
                  place -> {
                    if (place != oldest) {
                      renamed.add(counter + " (" + oldest.name() + " → " + place.name() + ")");
                    }
                  },
                  () -> dropped.add(counter + " (" + oldest.name() + ")"));
        });
    String check = "Counters of this version";
    String moved = renamed.isEmpty() ? "" : "; under another name: " + String.join(", ", renamed);
    if (dropped.isEmpty()) {
      return CheckResult.pass(check, "all " + places.size() + " totals are told" + moved);
    }
    return CheckResult.warn(
        check,
        "not told: " + String.join(", ", dropped) + moved,
        "all " + places.size() + " totals",
        "This version does not have them: they stay empty. Leave them out of the recipe.",
        "");
  }
}
