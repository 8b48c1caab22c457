package jamjar.server.telling;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.telling.Told;
import jamjar.core.telling.Told.Item;
import jamjar.core.telling.Told.Kind;
import jamjar.core.telling.Way;
import jamjar.server.moved.MovedNow;
import jamjar.server.moved.MovedView;
import jamjar.server.numbers.Units;
import jamjar.server.points.PointsBody;
import jamjar.server.points.PointsService;
import jamjar.server.points.SeriesPoints;
import jamjar.server.recipes.Recipes;
import jamjar.server.watching.StoreThere;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.telling.MessageRow;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Makes messages of what is to be told: what only the database knows is left out where it is away.
 */
@Component
class Composer {
  private static final Logger LOG = LoggerFactory.getLogger(Composer.class);
  private static final Duration SHOWN = Duration.ofHours(3);
  private static final int POINTS = 360;
  private static final int MOST_MOVED = 4;

  /** What has been outside of its normal for so long is told: it began a moment ago. */
  private static final long MOVED_MILLIS = 60_000;

  /** Between a channel and the address there: no name holds it. */
  static final String BETWEEN = "\t";

  private static final long PATIENCE_SECONDS = 3;

  private final Plans plans;
  private final Recipes recipes;
  private final MovedNow moved;
  private final PointsService points;
  private final Links links;
  private final Store store;
  private final StoreThere there;
  private final ExecutorService asking =
      Executors.newCachedThreadPool(
          task -> {
            Thread thread = new Thread(task, "telling-asks");
            thread.setDaemon(true);
            return thread;
          });

  Composer(
      Plans plans,
      Recipes recipes,
      MovedNow moved,
      PointsService points,
      Links links,
      Store store,
      StoreThere there) {
    this.plans = plans;
    this.recipes = recipes;
    this.moved = moved;
    this.points = points;
    this.links = links;
    this.store = store;
    this.there = there;
  }

  /** What a recipient is told by the first of their ways. */
  MessageRow message(Told told, Plans.Held held, String thread) {
    Words words = words(held.plan().zone());
    // of what is silent there is no chart, and nothing to count
    Item first =
        told.items().stream()
            .filter(item -> item.key().series() != 0)
            .findFirst()
            .orElse(told.items().get(0));
    boolean news = told.kind() == Kind.RISE || told.kind() == Kind.WORSE;
    String more = news ? more(first, held) : "";
    byte[] picture = news ? asked(() -> picture(told, first, words, held)).orElse(null) : null;
    List<Way> ways = told.ways();
    Way way = ways.get(0);
    return new MessageRow(
        told.key() + "/" + way.channel(),
        Instant.ofEpochMilli(told.at()),
        told.kind().name().toLowerCase(Locale.ROOT),
        told.matter(),
        told.recipient(),
        way.channel(),
        way.address(),
        others(ways),
        told.rule(),
        Words.word(told.severity()),
        told.items().stream().map(item -> item.key().words()).toArray(String[]::new),
        words.subject(told),
        words.body(told)
            + more
            + "\n\nTold to "
            + told.recipient()
            + " by the rule \""
            + told.rule()
            + "\".",
        thread,
        picture);
  }

  /** The ways after the first one. */
  static String[] others(List<Way> ways) {
    return ways.stream()
        .skip(1)
        .map(way -> way.channel() + BETWEEN + way.address())
        .toArray(String[]::new);
  }

  Words words(ZoneId zone) {
    return new Words(zone, this::counter);
  }

  private Optional<CounterDefinition> counter(Item item) {
    String key = item.subject().counter();
    InstanceRow row = plans.held().catalogue().instances().get(item.key().instance());
    // what is held needs no database
    return key.isEmpty() || row == null ? Optional.empty() : recipes.of(row).counter(key);
  }

  /** Nothing where it can't be told in time: a message waits for no database. */
  private <T> Optional<T> asked(Supplier<T> question) {
    if (there.away()) {
      return Optional.empty();
    }
    Future<T> answer = asking.submit(question::get);
    try {
      return Optional.ofNullable(answer.get(PATIENCE_SECONDS, TimeUnit.SECONDS));
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return Optional.empty();
    } catch (ExecutionException | TimeoutException e) {
      answer.cancel(true);
      LOG.warn("event=told-without why=\"{}\"", e.toString());
      return Optional.empty();
    }
  }

  private String more(Item item, Plans.Held held) {
    StringBuilder text = new StringBuilder();
    String also = asked(() -> alsoMoved(item, held)).orElse("");
    if (!also.isEmpty()) {
      text.append("\n\nWhat else moved there:\n").append(also);
    }
    String todo = asked(() -> toDo(item)).orElse("");
    if (!todo.isEmpty()) {
      text.append("\n\nWhat to do:\n").append(todo);
    }
    counter(item)
        .map(CounterDefinition::suggests)
        .filter(suggests -> !suggests.isEmpty())
        .ifPresent(suggests -> text.append("\n\nIt suggests: ").append(suggests));
    return text.toString();
  }

  private String alsoMoved(Item item, Plans.Held held) {
    InstanceRow row = held.catalogue().instances().get(item.key().instance());
    return row == null || item.subject().ofMany()
        ? ""
        : moved.held(row, MOVED_MILLIS).rows().stream()
            .filter(one -> one.series() != item.key().series())
            .sorted((a, b) -> Double.compare(Math.abs(b.distance()), Math.abs(a.distance())))
            .limit(MOST_MOVED)
            .map(Composer::line)
            .collect(Collectors.joining("\n"));
  }

  private static String line(MovedView.Row row) {
    String labels =
        row.labels().isEmpty()
            ? ""
            : " of " + row.labels().values().stream().sorted().collect(Collectors.joining(", "));
    return "- "
        + row.title()
        + labels
        + (row.value() == null ? "" : " " + Units.number(row.value(), row.unit()))
        + (row.normalLow() == null || row.normalHigh() == null
            ? ""
            : ", normal " + Units.range(row.normalLow(), row.normalHigh(), row.unit()));
  }

  /** As it was written down for the limit, the instance and the group. */
  private String toDo(Item item) {
    Optional<Integer> rule =
        store.alerts().openOf(item.key().instance()).stream()
            .filter(row -> row.series() == item.key().series())
            .filter(row -> row.condition().equals(item.key().condition().name()))
            .map(row -> row.rule())
            .findFirst();
    return Stream.of(
            rule.flatMap(id -> store.whatToDo().of("limit", Integer.toString(id))),
            store.whatToDo().of("instance", Integer.toString(item.key().instance())),
            store.whatToDo().of("group", item.subject().group()))
        .flatMap(Optional::stream)
        .map(row -> "- " + row.words())
        .collect(Collectors.joining("\n"));
  }

  private byte[] picture(Told told, Item item, Words words, Plans.Held held) {
    int series = item.key().series();
    if (series == 0) {
      return null;
    }
    long to = told.at();
    long from = Math.min(to - SHOWN.toMillis(), item.figures().since() - SHOWN.toMillis() / 3);
    SeriesPoints drawn =
        points.points(new PointsBody(List.of(series), from, to, POINTS, true)).get(0);
    if (drawn == null || drawn.at().isEmpty()) {
      return null;
    }
    String unit = counter(item).map(CounterDefinition::unit).orElse("");
    try {
      return Pictures.png(
          new Pictures.Chart(
              item.subject().name()
                  + " · "
                  + counter(item).map(CounterDefinition::title).orElse(item.subject().counter()),
              unit,
              held.plan().zone(),
              from,
              to,
              drawn.at(),
              array(drawn.mean(), drawn.at().size()),
              array(drawn.normalLow(), drawn.at().size()),
              array(drawn.normalHigh(), drawn.at().size()),
              limit(item)));
    } catch (IOException | RuntimeException | LinkageError e) {
      // a machine without fonts draws none; the words say it all
      LOG.warn("event=not-drawn why=\"{}\"", e.toString());
      return null;
    }
  }

  private static double limit(Item item) {
    return switch (item.key().condition()) {
      case ABOVE, BELOW -> item.figures().number();
      default -> Double.NaN;
    };
  }

  private static double[] array(List<Double> values, int length) {
    double[] all = new double[length];
    for (int i = 0; i < length; i++) {
      Double value = i < values.size() ? values.get(i) : null;
      all[i] = value == null ? Double.NaN : value;
    }
    return all;
  }

  /** Where a message is looked at. */
  String link(List<String> alerts, String kind) {
    boolean one = kind.equals("rise") || kind.equals("worse") || kind.equals("over");
    return one && !alerts.isEmpty()
        ? links.base() + "/alerts?rose=" + alerts.get(0)
        : links.messages();
  }
}
