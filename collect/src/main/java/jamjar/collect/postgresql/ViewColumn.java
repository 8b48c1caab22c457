package jamjar.collect.postgresql;

/**
 * A total that stands in a column of a statistics view.
 *
 * @param counter key of the counter
 * @param view the view
 * @param column the column
 * @param scale what the column is multiplied with to be kept as a whole number: 1, or 1000 for ms
 *     kept as µs
 * @param setting the setting that must be on for it to count; empty for none
 */
record ViewColumn(String counter, String view, String column, int scale, String setting) {
  static ViewColumn of(String counter, String view, String column) {
    return new ViewColumn(counter, view, column, 1, "");
  }

  static ViewColumn millis(String counter, String view, String column) {
    return new ViewColumn(counter, view, column, 1000, "");
  }

  ViewColumn when(String needed) {
    return new ViewColumn(counter, view, column, scale, needed);
  }

  /** As one writes it. */
  String name() {
    return view + "." + column;
  }

  /** Whether it is there. */
  boolean in(Abilities abilities) {
    return abilities.has(view, column);
  }

  /** The column as a whole number. */
  String expression(String alias) {
    String name = alias + "." + column;
    return scale == 1 ? name + "::bigint" : "round(" + name + " * " + scale + ")::bigint";
  }

  /** A view's reset time in µs, 0 for never. */
  static String epoch(String alias) {
    return "coalesce((extract(epoch from " + alias + ".stats_reset) * 1000000)::bigint, 0)";
  }
}
