package jamjar.server.estate;

import java.util.List;
import java.util.Map;

/**
 * One instance as a file gives it.
 *
 * @param line from 1
 * @param cells what it says, by field
 */
record FileRow(int line, Map<String, Cell> cells) {
  /** The fields of an instance in a file, in the order in which they are given out. */
  static final List<String> FIELDS =
      List.of(
          "name",
          "kind",
          "group",
          "site",
          "machine",
          "tags",
          "host",
          "port",
          "database",
          "tls",
          "ca",
          "credential",
          "user",
          "secret",
          "recipe",
          "interval",
          "zone",
          "uses");

  /** What stands in a place of the file. */
  record Cell(String text, int line) {}

  String text(String field) {
    Cell cell = cells.get(field);
    return cell == null ? "" : cell.text().strip();
  }

  /** Where a field stands, or would. */
  int lineOf(String field) {
    Cell cell = cells.get(field);
    return cell == null ? line : cell.line();
  }
}
