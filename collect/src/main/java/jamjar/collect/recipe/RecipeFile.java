package jamjar.collect.recipe;

import jamjar.collect.tls.Expiry;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Rule;
import jamjar.core.limit.Scope;
import jamjar.core.statement.FollowedReading;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import javax.management.MalformedObjectNameException;
import javax.management.ObjectName;

/**
 * Recipes as YAML files. A file may be based on others: it then has their counters, limits and ways
 * to read, as far as they can be read at all, and adds its own.
 */
public final class RecipeFile {
  /**
   * Groups that are filled by whoever reads, of any make: its own cost, the certificate, and of Jam
   * Jar itself who of a group is there.
   */
  private static final Set<String> BY_ITSELF = Set.of("own", "heads", Expiry.GROUP);

  private static final int LONGEST_SECONDS = 86_400;
  private static final int MINUTE_SECONDS = 60;

  private final String key;
  private final YamlPlace root;
  private final List<Fault> faults = new ArrayList<>();
  private final Map<Pace, Integer> paces = new EnumMap<>(Pace.class);
  private final Map<String, Pace> groups = new LinkedHashMap<>();
  private final Map<String, CounterDefinition> counters = new LinkedHashMap<>();
  private final Map<String, YamlPlace> places = new HashMap<>();
  private final Map<String, Depth> depths = new HashMap<>();
  private final Map<String, CounterDefinition> left = new LinkedHashMap<>();
  private final List<BeanQuery> beans = new ArrayList<>();
  private final Map<List<Object>, Rule> limits = new LinkedHashMap<>();
  private final List<String> firstView = new ArrayList<>();
  private String fact = "";

  private RecipeFile(String key, String file, String text) {
    this.key = key;
    this.root = YamlPlace.root(file, text, faults);
  }

  /** The recipe that is shipped under a name. */
  public static LoadedRecipe shipped(String key) {
    String file = "/recipes/" + key + ".yaml";
    try (InputStream in = RecipeFile.class.getResourceAsStream(file)) {
      if (in == null) {
        throw new IllegalArgumentException("no recipe '" + key + "' is shipped");
      }
      String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
      return read(key, key + ".yaml", text, RecipeFile::shipped);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /**
   * Reads a recipe.
   *
   * @param key the name under which instances refer to it
   * @param file what to call it in faults
   * @param others gives the recipes that it may be based on; throws {@link
   *     IllegalArgumentException} for one that there is not
   * @throws RecipeFaulty with everything that is wrong in it
   */
  public static LoadedRecipe read(
      String key, String file, String text, Function<String, LoadedRecipe> others) {
    RecipeFile reading = new RecipeFile(key, file, text);
    LoadedRecipe recipe = reading.read(others);
    if (!reading.faults.isEmpty()) {
      throw new RecipeFaulty(reading.faults);
    }
    return recipe;
  }

  private LoadedRecipe read(Function<String, LoadedRecipe> others) {
    if (!root.there()) {
      root.fault("the file is empty");
    }
    root.only(
        "kind",
        "name",
        "base",
        "basedOn",
        "without",
        "depth",
        "paces",
        "groups",
        "fact",
        "firstView",
        "limits",
        "beans",
        "counters");
    String kind = root.at("kind").needed();
    String name = root.at("name").needed();
    boolean base = root.at("base").flag();
    root.at("basedOn").items().forEach(place -> build(place, others, kind));
    root.at("paces").fields().forEach(this::pace);
    root.at("groups").fields().forEach(this::group);
    root.at("counters").items().forEach(this::counter);
    root.at("beans").items().forEach(this::bean);
    root.at("limits").items().forEach(place -> limit(place, kind));
    if (root.at("fact").there()) {
      fact = root.at("fact").text();
    }
    if (root.at("firstView").there()) {
      firstView.clear();
      firstView.addAll(root.at("firstView").texts());
    }
    settleDepths();
    if (root.at("depth").there()) {
      leaveDeeperThan(root.at("depth").word(Depth.class));
    }
    root.at("without").items().forEach(this::leave);
    leaveWhatIsMadeOf();
    quotients();
    requireKnown(root.at("fact"), fact.isEmpty() ? List.of() : List.of(fact));
    requireKnown(root.at("firstView"), firstView);
    if (!base && !beans.isEmpty()) {
      leaveOutWhatNobodyReads();
    }
    if (!faults.isEmpty()) {
      return null;
    }
    return new LoadedRecipe(
        key,
        new Recipe(kind, name, paces, groups, counters, fact, firstView),
        List.copyOf(beans),
        List.copyOf(limits.values()),
        List.copyOf(left.values()),
        // in one order always: recipes are compared as texts
        Collections.unmodifiableMap(new TreeMap<>(depths)),
        base);
  }

  private void build(YamlPlace place, Function<String, LoadedRecipe> others, String kind) {
    try {
      LoadedRecipe other = others.apply(place.text());
      paces.putAll(other.recipe().paces());
      groups.putAll(other.recipe().paceOf());
      counters.putAll(other.recipe().counters());
      depths.putAll(other.depths());
      beans.addAll(other.beans());
      other.limits().forEach(rule -> put(rule.of(new Scope(Scope.Reach.KIND, kind))));
      firstView.addAll(other.recipe().firstView());
      fact = other.recipe().fact();
      other.left().forEach(counter -> left.put(counter.key(), counter));
    } catch (IllegalArgumentException e) {
      place.fault(e.getMessage());
    }
  }

  /**
   * What is shown first, what has a limit and what stands on the shelf is essential, the rest of
   * use, where nothing else is said. What others are made of is as they are.
   */
  private void settleDepths() {
    Set<String> essential = new HashSet<>(firstView);
    limits.values().forEach(limit -> essential.add(limit.counter()));
    essential.add(fact);
    for (String counter : counters.keySet()) {
      if (essential.contains(counter)) {
        depths.put(counter, Depth.ESSENTIAL);
      } else {
        depths.putIfAbsent(counter, Depth.USEFUL);
      }
    }
    for (CounterDefinition counter : counters.values()) {
      if (counter.shape() == Shape.QUOTIENT) {
        Depth depth = depths.get(counter.key());
        depths.merge(counter.numerator(), depth, RecipeFile::lesser);
        counter.denominators().forEach(part -> depths.merge(part, depth, RecipeFile::lesser));
      }
    }
  }

  private static Depth lesser(Depth a, Depth b) {
    return a.compareTo(b) < 0 ? a : b;
  }

  private void leaveDeeperThan(Depth most) {
    for (CounterDefinition counter : List.copyOf(counters.values())) {
      if (depths.get(counter.key()).compareTo(most) > 0) {
        counters.remove(counter.key());
        left.put(counter.key(), counter);
      }
    }
  }

  /** One that it does not read. */
  private void leave(YamlPlace place) {
    CounterDefinition counter = counters.remove(place.text());
    if (counter == null && left.containsKey(place.text())) {
      return;
    }
    if (counter == null) {
      place.fault("there is no counter '" + place.text() + "' to leave out");
      return;
    }
    left.put(counter.key(), counter);
  }

  /** What is made of others goes with them, as do their limits and ways to read. */
  private void leaveWhatIsMadeOf() {
    if (left.isEmpty()) {
      return;
    }
    for (CounterDefinition counter : List.copyOf(counters.values())) {
      boolean made = left.containsKey(counter.numerator());
      if (made || counter.denominators().stream().anyMatch(left::containsKey)) {
        counters.remove(counter.key());
        left.put(counter.key(), counter);
      }
    }
    limits.values().removeIf(limit -> left.containsKey(limit.counter()));
    firstView.removeIf(left::containsKey);
    fact = left.containsKey(fact) ? "" : fact;
    beans.replaceAll(query -> query.without(left.keySet()));
    beans.removeIf(query -> query.reads().isEmpty());
  }

  private void pace(String word, YamlPlace place) {
    Optional<Pace> pace = Pace.named(word);
    Double seconds = place.number();
    if (pace.isEmpty()) {
      place.fault("'" + word + "' is no pace: there are " + words(EnumSet.allOf(Pace.class)));
      return;
    }
    if (seconds != null && seconds < 1) {
      place.fault("is at least 1 second");
    } else if (seconds != null && !pace.get().isRead() && seconds != MINUTE_SECONDS) {
      place.fault("is " + MINUTE_SECONDS + " seconds: so it is counted");
    } else if (seconds != null && seconds > LONGEST_SECONDS) {
      place.fault("is at most " + LONGEST_SECONDS + " seconds");
    }
    paces.put(pace.get(), seconds == null ? 1 : seconds.intValue());
  }

  private static List<String> words(Set<Pace> paces) {
    return paces.stream().map(Pace::word).toList();
  }

  private void group(String group, YamlPlace place) {
    Optional<Pace> pace = Pace.named(place.text()).filter(paces::containsKey);
    if (pace.isEmpty()) {
      place.fault("'" + place.text() + "' is none of the paces " + words(paces.keySet()));
    }
    boolean counted = pace.filter(p -> !p.isRead()).isPresent();
    if (pace.isPresent() && counted != group.equals(FollowedReading.GROUP)) {
      place.fault(
          "group '"
              + FollowedReading.GROUP
              + "', and no other, is of the pace '"
              + Pace.MINUTE.word()
              + "'");
    }
    groups.put(group, pace.orElse(Pace.FAST));
  }

  private void counter(YamlPlace place) {
    place.only(
        "key",
        "depth",
        "title",
        "group",
        "unit",
        "shape",
        "subject",
        "summed",
        "resolution",
        "matters",
        "goodEnd",
        "worse",
        "trouble",
        "meaning",
        "suggests",
        "questions",
        "readWith",
        "numerator",
        "denominators",
        "factor",
        "least");
    String name = place.at("key").needed();
    Shape shape = place.at("shape").word(Shape.class);
    String group = place.at("group").needed();
    String numerator = place.at("numerator").text();
    List<String> denominators = place.at("denominators").texts();
    if (shape != Shape.QUOTIENT && !groups.containsKey(group)) {
      place.at("group").fault("group '" + group + "' has no pace");
    }
    if ((shape == Shape.QUOTIENT) == (numerator.isEmpty() || denominators.isEmpty())) {
      place
          .at("shape")
          .fault("a quotient, and only a quotient, names its numerator and denominators");
      return;
    }
    Worse worse = place.at("worse").word(Worse.class);
    if (place.at("trouble").flag() && worse != Worse.UP) {
      place.at("trouble").fault("what is good at zero only gets worse when it goes up");
    }
    if (places.put(name, place) != null) {
      place.at("key").fault("counter " + name + " stands there twice");
    }
    left.remove(name);
    if (place.at("depth").there()) {
      depths.put(name, place.at("depth").word(Depth.class));
    } else {
      depths.remove(name);
    }
    counters.put(
        name,
        new CounterDefinition(
            name,
            place.at("title").needed(),
            group,
            place.at("unit").text(),
            shape,
            place.at("subject").text(),
            place.at("summed").flag(),
            place.at("resolution").number(0),
            place.at("matters").number(0),
            place.at("goodEnd").number(0),
            worse,
            place.at("trouble").flag(),
            place.at("meaning").needed(),
            place.at("suggests").text(),
            place.at("questions").texts(),
            place.at("readWith").texts(),
            numerator,
            denominators,
            place.at("factor").number(1),
            place.at("least").number(CounterDefinition.DEFAULT_LEAST)));
  }

  /** The parts of a quotient are read by one query or one bean call. */
  private void quotients() {
    places.forEach(
        (name, place) -> {
          CounterDefinition quotient = counters.get(name);
          if (quotient != null && quotient.shape() == Shape.QUOTIENT) {
            List<String> parts = new ArrayList<>(List.of(quotient.numerator()));
            parts.addAll(quotient.denominators());
            for (String part : parts) {
              CounterDefinition read = counters.get(part);
              if (read == null || read.shape() == Shape.QUOTIENT) {
                place.at("shape").fault("'" + part + "' is not a counter that is read");
              } else if (!read.group().equals(quotient.group())) {
                place.at("group").fault("'" + part + "' is read by another query");
              }
            }
          }
        });
  }

  private void bean(YamlPlace place) {
    place.only("group", "name", "except", "labels", "read", "leadsTo", "special");
    String group = place.at("group").needed();
    if (!groups.containsKey(group)) {
      place.at("group").fault("group '" + group + "' has no pace");
    }
    String special = place.at("special").text();
    List<AttributeRead> reads = place.at("read").items().stream().map(this::attribute).toList();
    if (!special.isEmpty()) {
      Integer wanted = BeanQuery.SPECIALS.get(special);
      if (wanted == null) {
        place
            .at("special")
            .fault("'" + special + "' is none of " + new TreeSet<>(BeanQuery.SPECIALS.keySet()));
      } else if (!BeanQuery.fills(special, reads.size())) {
        place.at("read").fault("'" + special + "' fills " + wanted + " counters, in its order");
      }
    }
    if (reads.isEmpty()) {
      place.at("read").fault("is missing: which counters, from which attributes");
    }
    Map<String, BeanQuery.FromName> labels = new LinkedHashMap<>();
    place.at("labels").fields().forEach((label, from) -> labels.put(label, fromName(from)));
    if (!place.at("name").there()) {
      place.at("name").fault("is missing");
    }
    BeanQuery query =
        new BeanQuery(
            group,
            names(place.at("name")),
            names(place.at("except")),
            labels,
            reads,
            place.at("leadsTo").text(),
            special);
    for (int i = 0; i < beans.size(); i++) {
      if (beans.get(i).goesWith(query)) {
        beans.set(i, beans.get(i).and(query));
        return;
      }
    }
    beans.add(query);
  }

  private static BeanQuery.FromName fromName(YamlPlace place) {
    try {
      if (place.scalar()) {
        return new BeanQuery.FromName(place.needed(), null);
      }
      place.only("from", "match");
      return new BeanQuery.FromName(
          place.at("from").needed(), Pattern.compile(place.at("match").needed()));
    } catch (PatternSyntaxException e) {
      place.at("match").fault("not a regular expression: " + e.getDescription());
      return new BeanQuery.FromName("", null);
    }
  }

  private static List<ObjectName> names(YamlPlace place) {
    List<ObjectName> names = new ArrayList<>();
    for (String text : place.oneOrMore()) {
      try {
        names.add(new ObjectName(text));
      } catch (MalformedObjectNameException e) {
        place.fault("'" + text + "' is not a pattern of managed-bean names: " + e.getMessage());
      }
    }
    return names;
  }

  private AttributeRead attribute(YamlPlace place) {
    place.only("counter", "attribute", "scale", "unknown", "needs", "words");
    String counter = place.at("counter").needed();
    CounterDefinition known = counters.get(counter);
    if (known == null || known.shape() == Shape.QUOTIENT) {
      place.at("counter").fault("'" + counter + "' is not a counter of this recipe that is read");
    }
    Map<String, Double> words = new LinkedHashMap<>();
    place.at("words").fields().forEach((word, value) -> words.put(word, value.number(0)));
    List<String> path = List.of(place.at("attribute").needed().split("\\."));
    String beside = place.at("needs").text();
    return new AttributeRead(
        counter,
        path,
        place.at("scale").number(1),
        place.at("unknown").number(Double.NaN),
        beside.isEmpty() ? List.of() : List.of(path.get(0), beside),
        words);
  }

  private void limit(YamlPlace place, String kind) {
    place.only(
        "counter",
        "condition",
        "labels",
        "warning",
        "critical",
        "hold",
        "criticalHold",
        "clear",
        "criticalClear",
        "clearSeconds",
        "against");
    Condition condition = place.at("condition").word(Condition.class);
    String counter = place.at("counter").text();
    if (condition.ofInstance() != counter.isEmpty()) {
      place
          .at("counter")
          .fault(
              "silence and what is unreachable are of the instance; everything else is of a counter");
    } else if (!counter.isEmpty() && !counters.containsKey(counter)) {
      place.at("counter").fault("no counter '" + counter + "'");
    }
    Double warning = place.at("warning").number();
    Double critical = place.at("critical").number();
    if (warning == null && critical == null) {
      place.fault("neither warning nor critical is set");
    }
    Double clearSeconds = place.at("clearSeconds").number();
    put(
        new Rule(
            0,
            counter,
            place.at("labels").textByName(),
            new Scope(Scope.Reach.KIND, kind),
            condition,
            warning,
            critical,
            hold(place.at("hold")),
            hold(place.at("criticalHold")),
            place.at("clear").number(),
            place.at("criticalClear").number(),
            clearSeconds == null ? null : clearSeconds.intValue(),
            place.at("against").number(),
            true));
  }

  private void put(Rule rule) {
    limits.put(List.of(rule.counter(), rule.labels(), rule.condition()), rule);
  }

  private static Rule.Hold hold(YamlPlace place) {
    if (!place.there()) {
      return null;
    }
    List<YamlPlace> parts = place.items();
    if (parts.size() != 2) {
      place.fault("is m of the last n judgings, as in [3, 3]");
      return null;
    }
    int m = (int) parts.get(0).number(0);
    int n = (int) parts.get(1).number(0);
    if (m < 1 || m > n) {
      place.fault("m is at least 1 and at most n");
      return null;
    }
    return new Rule.Hold(m, n);
  }

  /** A make offers what its beans tell; the rest of what it is based on is not there. */
  private void leaveOutWhatNobodyReads() {
    Set<String> read = new HashSet<>();
    beans.forEach(query -> query.reads().forEach(a -> read.add(a.counter())));
    counters
        .values()
        .removeIf(
            c ->
                c.shape() != Shape.QUOTIENT
                    && !read.contains(c.key())
                    && !BY_ITSELF.contains(c.group()));
    counters
        .values()
        .removeIf(
            c ->
                c.shape() == Shape.QUOTIENT
                    && !(read.contains(c.numerator()) && read.containsAll(c.denominators())));
    firstView.retainAll(counters.keySet());
    limits.values().removeIf(l -> !l.counter().isEmpty() && !counters.containsKey(l.counter()));
    if (!counters.containsKey(fact)) {
      fact = "";
    }
  }

  private void requireKnown(YamlPlace place, List<String> keys) {
    keys.stream()
        .filter(counter -> !counters.containsKey(counter))
        .forEach(counter -> place.fault("no counter '" + counter + "'"));
  }
}
