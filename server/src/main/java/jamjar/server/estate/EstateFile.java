package jamjar.server.estate;

import jamjar.collect.recipe.Fault;
import jamjar.collect.recipe.RecipeFaulty;
import jamjar.collect.recipe.YamlPlace;
import jamjar.server.files.Formulas;
import jamjar.store.groups.GroupRow;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * A file of instances: YAML with {@code defaults}, {@code groups} and {@code instances}, or CSV
 * with a line of field names first.
 *
 * @param rows the instances that it gives
 * @param groups how many of a group there should be at a site
 * @param faults what could not be read
 */
record EstateFile(List<FileRow> rows, List<GroupRow> groups, List<LineFault> faults) {

  static EstateFile read(String text, String format) {
    return format.equals("csv") ? csv(text) : yaml(text);
  }

  private static EstateFile yaml(String text) {
    List<Fault> told = new ArrayList<>();
    List<FileRow> rows = new ArrayList<>();
    List<GroupRow> groups = new ArrayList<>();
    try {
      YamlPlace root = YamlPlace.root("", text, told).only("defaults", "groups", "instances");
      Map<String, FileRow.Cell> defaults = cells(root.at("defaults"));
      for (YamlPlace group : root.at("groups").items()) {
        group.only("name", "site", "expected", "command");
        groups.add(
            new GroupRow(
                group.at("name").needed(),
                group.at("site").text(),
                (int) group.at("expected").number(0),
                group.at("command").text()));
      }
      for (YamlPlace instance : root.at("instances").items()) {
        Map<String, FileRow.Cell> cells = new LinkedHashMap<>(defaults);
        cells.putAll(cells(instance));
        rows.add(new FileRow(instance.line(), cells));
      }
      if (rows.isEmpty() && groups.isEmpty() && told.isEmpty()) {
        root.at("instances").fault("there are none");
      }
    } catch (RecipeFaulty e) {
      told.addAll(e.faults());
    }
    List<LineFault> faults =
        told.stream().map(f -> new LineFault(f.line(), last(f.field()), f.sentence())).toList();
    return new EstateFile(rows, groups, faults);
  }

  private static String last(String path) {
    return path.substring(path.lastIndexOf('.') + 1);
  }

  private static Map<String, FileRow.Cell> cells(YamlPlace place) {
    place.only(FileRow.FIELDS.toArray(String[]::new));
    Map<String, FileRow.Cell> cells = new LinkedHashMap<>();
    place
        .fields()
        .forEach(
            (field, value) ->
                cells.put(
                    field, new FileRow.Cell(String.join(", ", value.oneOrMore()), value.line())));
    return cells;
  }

  private static EstateFile csv(String text) {
    List<FileRow> rows = new ArrayList<>();
    List<LineFault> faults = new ArrayList<>();
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setHeader()
            .setSkipHeaderRecord(true)
            .setIgnoreEmptyLines(true)
            .setTrim(true)
            .get();
    try (CSVParser parser = format.parse(new StringReader(text))) {
      for (String name : parser.getHeaderNames()) {
        if (!FileRow.FIELDS.contains(name)) {
          faults.add(
              new LineFault(1, name, "unknown; known are " + String.join(", ", FileRow.FIELDS)));
        }
      }
      // the parser tells the line that it has come to, which is where a record ends
      int line = 2;
      for (CSVRecord record : parser) {
        Map<String, FileRow.Cell> cells = new LinkedHashMap<>();
        if (!record.isConsistent()) {
          faults.add(
              new LineFault(
                  line,
                  "",
                  record.size()
                      + " fields, but the first line names "
                      + parser.getHeaderNames().size()));
        } else {
          for (Map.Entry<String, String> cell : record.toMap().entrySet()) {
            cells.put(cell.getKey(), new FileRow.Cell(Formulas.plain(cell.getValue()), line));
          }
          rows.add(new FileRow(line, cells));
        }
        line = (int) parser.getCurrentLineNumber() + 1;
      }
      if (rows.isEmpty() && faults.isEmpty()) {
        faults.add(new LineFault(0, "", "there are no instances in it"));
      }
    } catch (IOException | UncheckedIOException | IllegalArgumentException e) {
      faults.add(new LineFault(0, "", "not CSV: " + e.getMessage()));
    }
    return new EstateFile(rows, List.of(), faults);
  }
}
