package jamjar.server.security;

import jamjar.store.instances.InstanceRow;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * What of the estate is in a scope, as the estate was when this was asked for.
 *
 * @param scope whose it is
 * @param all the whole estate; need not be filled where all of it is in the scope
 */
public record Sight(Scope scope, List<InstanceRow> all) {
  /** Nobody's. */
  public static final Sight NOTHING = new Sight(Scope.of("0"), List.of());

  /** Whether an instance is in it. */
  public boolean holds(int instance) {
    return scope.isAll() || any(row -> row.id() == instance);
  }

  /** The numbers of those that are in it; none where all are. */
  public Set<Integer> numbers() {
    return all.stream().filter(scope::holds).map(InstanceRow::id).collect(Collectors.toSet());
  }

  private boolean any(Predicate<InstanceRow> about) {
    return all.stream().anyMatch(row -> about.test(row) && scope.holds(row));
  }

  /**
   * Whether something that is about so much concerns who asks: it does, where it is about any
   * instance in the scope.
   *
   * @param level all, kind, site, group or instance, whatever its case
   * @param of which of them
   */
  public boolean sees(String level, String of) {
    return scope.isAll() || wide(level) || any(reached(level, of));
  }

  /**
   * Whether all that something is about is in the scope: then it may be changed, and counted.
   *
   * @param level as above
   * @param of as above
   */
  public boolean owns(String level, String of) {
    return scope.isAll() || !wide(level) && whole(reached(level, of));
  }

  /** Whether all of a group at a site is in the scope. */
  public boolean ownsGroup(String group, String site) {
    return scope.holdsGroup(group, site)
        || whole(row -> row.groupName().equals(group) && row.site().equals(site));
  }

  private boolean whole(Predicate<InstanceRow> about) {
    return any(about) && all.stream().filter(about).allMatch(scope::holds);
  }

  /** Whether a name is that of an instance which is not in the scope. */
  public boolean hides(String name) {
    return !scope.isAll()
        && all.stream().anyMatch(row -> row.name().equals(name) && !scope.holds(row));
  }

  private static boolean wide(String level) {
    return level.equalsIgnoreCase("all") || level.equalsIgnoreCase("kind");
  }

  private static Predicate<InstanceRow> reached(String level, String of) {
    return row ->
        switch (level.toLowerCase(Locale.ROOT)) {
          case "site" -> of.equals(row.site());
          case "group" -> of.equals(row.groupName());
          default -> of.equals(Integer.toString(row.id()));
        };
  }
}
