package jamjar.server.changes;

import jamjar.server.changes.Changes.What;
import jamjar.server.security.Guards;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.store.changes.ChangeRow;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Of changes of what is watched those in the scope of who asks. */
@Component
class ChangesInScope {
  private final Scopes scopes;
  private final Guards guards;
  private final JsonMapper json;

  ChangesInScope(Scopes scopes, Guards guards, JsonMapper json) {
    this.scopes = scopes;
    this.guards = guards;
    this.json = json;
  }

  List<ChangeRow> of(List<ChangeRow> rows) {
    if (Scopes.isAll()) {
      return rows;
    }
    Sight sight = scopes.sight();
    return rows.stream().filter(row -> isSeen(row, sight)).map(this::told).toList();
  }

  private boolean isSeen(ChangeRow row, Sight sight) {
    What what = What.of(row.what());
    return switch (what) {
      case INSTANCE, ALERT -> guards.see(what.word(), Long.parseLong(row.ofWhat()));
      case LIMIT, MARKER, GROUP ->
          Stream.of(row.before(), row.after())
              .filter(Objects::nonNull)
              .allMatch(told -> isSeen(json.readTree(told), sight));
      case RECIPE -> true;
      default -> false;
    };
  }

  private static boolean isSeen(JsonNode told, Sight sight) {
    JsonNode about = told.has("scope") ? told.get("scope") : told.path("reach");
    return about.isObject()
        ? sight.sees(about.path("level").asString(""), about.path("of").asString(""))
        : sight.ownsGroup(told.path("name").asString(""), told.path("site").asString(""));
  }

  /** Whom an instance uses may be out of the scope. */
  private ChangeRow told(ChangeRow row) {
    return What.of(row.what()) == What.INSTANCE
        ? row.as(withoutUses(row.before()), withoutUses(row.after()))
        : row;
  }

  private String withoutUses(String told) {
    if (told == null) {
      return null;
    }
    JsonNode node = json.readTree(told);
    ((ObjectNode) node).remove("uses");
    return json.writeValueAsString(node);
  }
}
