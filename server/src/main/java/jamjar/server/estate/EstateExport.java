package jamjar.server.estate;

import jamjar.server.files.Formulas;
import jamjar.server.instances.Uses;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.groups.GroupRow;
import jamjar.store.instances.InstanceRow;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.snakeyaml.engine.v2.api.Dump;
import org.snakeyaml.engine.v2.api.DumpSettings;
import org.snakeyaml.engine.v2.common.FlowStyle;
import org.springframework.stereotype.Service;

/** Gives all instances out as they can be taken in, but for passwords, which never leave. */
@Service
class EstateExport {
  private final Store store;
  private final Scopes scopes;

  EstateExport(Store store, Scopes scopes) {
    this.store = store;
    this.scopes = scopes;
  }

  String yaml() {
    Map<String, Object> file = new LinkedHashMap<>();
    Sight sight = scopes.sight();
    List<Map<String, Object>> groups =
        store.groups().all().stream()
            .filter(row -> sight.ownsGroup(row.name(), row.site()))
            .map(this::group)
            .toList();
    if (!groups.isEmpty()) {
      file.put("groups", groups);
    }
    file.put(
        "instances",
        rows().stream()
            .map(
                row -> {
                  Map<String, Object> fields = fields(row, sight);
                  fields.values().removeIf(""::equals);
                  return fields;
                })
            .toList());
    return new Dump(
            DumpSettings.builder().setDefaultFlowStyle(FlowStyle.BLOCK).setWidth(120).build())
        .dumpToString(file);
  }

  String csv() {
    Sight sight = scopes.sight();
    StringWriter text = new StringWriter();
    List<String> header = FileRow.FIELDS.stream().filter(f -> !f.equals("secret")).toList();
    try (CSVPrinter printer = CSVFormat.RFC4180.print(text)) {
      printer.printRecord(header);
      for (InstanceRow row : rows()) {
        Map<String, Object> fields = fields(row, sight);
        printer.printRecord(header.stream().map(fields::get).map(Formulas::neutral).toList());
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return text.toString();
  }

  private List<InstanceRow> rows() {
    return scopes.instances().stream().filter(row -> !row.kind().equals(InstanceRow.OWN)).toList();
  }

  private Map<String, Object> group(GroupRow row) {
    Map<String, Object> fields = new LinkedHashMap<>();
    fields.put("name", row.name());
    fields.put("site", row.site());
    fields.put("expected", row.expected());
    if (!row.command().isEmpty()) {
      fields.put("command", row.command());
    }
    return fields;
  }

  private static Map<String, Object> fields(InstanceRow row, Sight sight) {
    boolean named = row.credential() != null;
    Map<String, Object> fields = new LinkedHashMap<>();
    fields.put("name", row.name());
    fields.put("kind", row.kind());
    fields.put("group", row.groupName());
    fields.put("site", row.site());
    fields.put("machine", row.machine());
    fields.put("tags", String.join(" ", row.tags()));
    fields.put("host", row.host());
    fields.put("port", row.port());
    fields.put("database", row.database());
    fields.put("tls", row.tls());
    fields.put("ca", row.ca());
    fields.put("credential", named ? row.credential() : "");
    fields.put("user", named ? "" : row.userName());
    fields.put("recipe", row.recipe());
    fields.put("interval", row.intervalS());
    fields.put("zone", row.zone());
    fields.put("uses", String.join(", ", Uses.seen(row, sight)));
    return fields;
  }
}
