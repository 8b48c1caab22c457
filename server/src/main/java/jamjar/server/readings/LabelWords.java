package jamjar.server.readings;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jamjar.core.session.Fingerprint;
import jamjar.core.statement.FollowedReading;
import jamjar.store.Store;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/**
 * What the labels of a series stand for where they do not say it themselves: of a statement the
 * beginning of its text.
 */
@Component
public class LabelWords {
  /** So much of a statement tells it from others. */
  private static final int BEGINNING = 160;

  private static final int REMEMBERED = 10_000;

  private final Store store;

  /** A text never changes. */
  private final Cache<Statement, String> statements =
      Caffeine.newBuilder().maximumSize(REMEMBERED).build();

  private record Statement(int instance, long fingerprint) {}

  LabelWords(Store store) {
    this.store = store;
  }

  /** Empty where the labels say it themselves, or the text is not known. */
  public String of(int instance, Map<String, String> labels) {
    String print = labels.get(FollowedReading.LABEL);
    if (print == null) {
      return "";
    }
    try {
      String text =
          statements.get(new Statement(instance, Fingerprint.of(print)), this::beginningOf);
      return text == null ? "" : text;
    } catch (NumberFormatException e) {
      return "";
    }
  }

  /** Null where it is not known: it may be told later. */
  private String beginningOf(Statement one) {
    String text =
        store.statements().texts(one.instance(), List.of(one.fingerprint())).get(one.fingerprint());
    return text == null ? null : text.substring(0, Math.min(text.length(), BEGINNING));
  }
}
