package jamjar.server.telling;

import jamjar.core.telling.Subject;
import jamjar.core.telling.Teller;
import jamjar.server.heads.Heads;
import jamjar.server.instances.Uses;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * What is watched, and what of it is in maintenance when, as it is held in memory: telling goes on
 * while the database is away.
 *
 * @param instances by number
 * @param maintenance of the time that is told of
 */
record Catalogue(Map<Integer, InstanceRow> instances, List<MarkerRow> maintenance)
    implements Teller.Muted {
  private static final String MAINTENANCE = "maintenance";
  static final Catalogue EMPTY = new Catalogue(Map.of(), List.of());

  static Catalogue of(List<InstanceRow> instances, List<MarkerRow> markers) {
    return new Catalogue(
        instances.stream().collect(Collectors.toMap(InstanceRow::id, Function.identity())),
        markers.stream().filter(marker -> marker.kind().equals(MAINTENANCE)).toList());
  }

  /** What an alert is about. */
  Subject subject(int instance, String counter, Map<String, String> labels) {
    InstanceRow row = instances.get(instance);
    if (row == null) {
      return new Subject(
          instance,
          "instance " + instance + ", removed",
          "",
          "",
          "",
          List.of(),
          false,
          counter,
          labels,
          Set.of());
    }
    boolean own = row.kind().equals(InstanceRow.OWN);
    String group = own ? labels.getOrDefault(Heads.GROUP, "") : "";
    String site = own ? labels.getOrDefault(Heads.SITE, "") : "";
    if (!group.isEmpty() || !site.isEmpty()) {
      return new Subject(
          instance,
          group.isEmpty() ? site : group,
          row.kind(),
          group,
          site,
          List.of(),
          true,
          counter,
          labels,
          Set.of());
    }
    Set<Integer> uses =
        Uses.of(row, labels.values()).stream()
            .map(this::byName)
            .filter(Objects::nonNull)
            .collect(Collectors.toSet());
    return new Subject(
        instance,
        row.name(),
        row.kind(),
        row.groupName(),
        row.site(),
        List.of(row.tags()),
        false,
        counter,
        labels,
        uses);
  }

  private Integer byName(String name) {
    return instances.values().stream()
        .filter(row -> row.name().equals(name))
        .map(InstanceRow::id)
        .findFirst()
        .orElse(null);
  }

  @Override
  public boolean is(Subject subject, long at) {
    return maintenance.stream().anyMatch(marker -> holds(marker, at) && reaches(marker, subject));
  }

  private static boolean holds(MarkerRow marker, long at) {
    return marker.from().toEpochMilli() <= at
        && (marker.to() == null || at < marker.to().toEpochMilli());
  }

  private static boolean reaches(MarkerRow marker, Subject subject) {
    return switch (marker.reach()) {
      case "all" -> true;
      case "site" -> !subject.site().isEmpty() && marker.reachOf().equals(subject.site());
      case "group" -> !subject.group().isEmpty() && marker.reachOf().equals(subject.group());
      default -> !subject.ofMany() && marker.reachOf().equals(Integer.toString(subject.instance()));
    };
  }
}
