package jamjar.collect.recipe;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Compose;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;
import org.snakeyaml.engine.v2.nodes.Tag;

/**
 * A value in a YAML file together with the place where it stands. What is wrong is gathered rather
 * than thrown, so that a person sees all of it at once.
 */
public final class YamlPlace {
  private final String file;
  private final Node node;
  private final int line;
  private final String path;
  private final List<Fault> faults;
  private Map<String, YamlPlace> fields;

  private YamlPlace(String file, Node node, int line, String path, List<Fault> faults) {
    this.file = file;
    this.node = node;
    this.line = line;
    this.path = path;
    this.faults = faults;
  }

  /**
   * @param faults where faults are put
   * @throws RecipeFaulty when the text is not YAML at all
   */
  public static YamlPlace root(String file, String text, List<Fault> faults) {
    try {
      Optional<Node> root =
          new Compose(LoadSettings.builder().setLabel(file).setAllowDuplicateKeys(false).build())
              .composeString(text);
      return new YamlPlace(file, root.orElse(null), 1, "", faults);
    } catch (MarkedYamlEngineException e) {
      int line = e.getProblemMark().map(mark -> mark.getLine() + 1).orElse(0);
      throw new RecipeFaulty(List.of(new Fault(file, line, "", "not YAML: " + e.getProblem())));
    } catch (YamlEngineException e) {
      throw new RecipeFaulty(List.of(new Fault(file, 0, "", "not taken: " + e.getMessage())));
    } catch (StackOverflowError e) {
      throw new RecipeFaulty(List.of(new Fault(file, 0, "", "not taken: nested too deeply")));
    }
  }

  public void fault(String sentence) {
    faults.add(new Fault(file, line, path, sentence));
  }

  /** From 1. */
  public int line() {
    return line;
  }

  public boolean there() {
    return node != null && !Tag.NULL.equals(node.getTag());
  }

  /** Anything but these fields is a fault. */
  public YamlPlace only(String... known) {
    Set<String> all = Set.of(known);
    fields()
        .forEach(
            (name, place) -> {
              if (!all.contains(name)) {
                place.fault(
                    "unknown; known are "
                        + String.join(", ", Arrays.stream(known).sorted().toList()));
              }
            });
    return this;
  }

  public YamlPlace at(String field) {
    YamlPlace found = fields().get(field);
    return found != null ? found : new YamlPlace(file, null, line, inside(field), faults);
  }

  private String inside(String field) {
    return path.isEmpty() ? field : path + "." + field;
  }

  public Map<String, YamlPlace> fields() {
    if (fields == null) {
      fields = readFields();
    }
    return fields;
  }

  private Map<String, YamlPlace> readFields() {
    Map<String, YamlPlace> found = new LinkedHashMap<>();
    if (node instanceof MappingNode mapping) {
      for (NodeTuple tuple : mapping.getValue()) {
        if (tuple.getKeyNode() instanceof ScalarNode key) {
          String name = key.getValue();
          found.put(
              name, new YamlPlace(file, tuple.getValueNode(), lineOf(key), inside(name), faults));
        } else {
          fault("a name is not a text");
        }
      }
    } else if (there()) {
      fault("is not a mapping of names to values");
    }
    return found;
  }

  public List<YamlPlace> items() {
    List<YamlPlace> found = new ArrayList<>();
    if (node instanceof SequenceNode sequence) {
      for (Node item : sequence.getValue()) {
        String where = path + "[" + found.size() + "]";
        found.add(new YamlPlace(file, item, lineOf(item), where, faults));
      }
    } else if (there()) {
      fault("is not a list");
    }
    return found;
  }

  public boolean scalar() {
    return node instanceof ScalarNode;
  }

  /** One text or several: both are written naturally. */
  public List<String> oneOrMore() {
    return scalar() ? List.of(text()) : texts();
  }

  public List<String> texts() {
    return items().stream().map(YamlPlace::text).toList();
  }

  public Map<String, String> textByName() {
    Map<String, String> found = new LinkedHashMap<>();
    fields().forEach((name, place) -> found.put(name, place.text()));
    return found;
  }

  /** Empty when it is not there. */
  public String text() {
    if (!there()) {
      return "";
    }
    if (node instanceof ScalarNode scalar) {
      return scalar.getValue();
    }
    fault("is not a text");
    return "";
  }

  public String needed() {
    String text = text();
    if (text.isBlank()) {
      fault("is missing");
    }
    return text;
  }

  /** Null when it is not there. */
  public Double number() {
    if (!there()) {
      return null;
    }
    try {
      return Double.valueOf(text().replace("_", ""));
    } catch (NumberFormatException e) {
      fault("'" + text() + "' is not a number");
      return null;
    }
  }

  public double number(double otherwise) {
    Double number = number();
    return number == null ? otherwise : number;
  }

  public boolean flag() {
    String text = text();
    if (!text.isEmpty() && !text.equals("true") && !text.equals("false")) {
      fault("'" + text + "' is neither true nor false");
    }
    return text.equals("true");
  }

  /** One of the words of an enum; the first of them, with a fault, when it is another. */
  public <E extends Enum<E>> E word(Class<E> words) {
    String text = needed();
    for (E word : words.getEnumConstants()) {
      if (word.name().toLowerCase(Locale.ROOT).equals(text)) {
        return word;
      }
    }
    if (!text.isBlank()) {
      fault(
          "'"
              + text
              + "' is none of "
              + Arrays.stream(words.getEnumConstants())
                  .map(word -> word.name().toLowerCase(Locale.ROOT))
                  .collect(Collectors.joining(", ")));
    }
    return words.getEnumConstants()[0];
  }

  private static int lineOf(Node node) {
    return node.getStartMark().map(mark -> mark.getLine() + 1).orElse(0);
  }
}
