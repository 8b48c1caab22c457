package jamjar.e2e;

import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Alerts as the server tells them. */
final class Alerts {
  private Alerts() {}

  /** That many of one limit, one after the other, as one answer in JSON. */
  static String many(int count, String title) {
    return IntStream.rangeClosed(1, count)
        .mapToObj(n -> one(n, title + (count > 1 ? " " + n : "")))
        .collect(Collectors.joining(",", "[", "]"));
  }

  private static String one(int n, String title) {
    return """
        {"id":%d,"bundle":%d,"limit":1,"instance":1,"instanceName":"one","subject":"one","standing":"","series":%d,"counter":"c","title":"%s",
        "labels":{},"unit":"","condition":"above","state":"warning","severity":"warning",
        "since":%d,"ended":null,"value":5,"normalLow":null,"normalHigh":null,"number":4,"worst":5,
        "flapping":false,"quiet":"","afterwards":false,"known":false,"acknowledged":null,"transitions":[],"notes":[]}
        """
        .formatted(n, n, n, title, 1_700_000_000_000L + n * 1000L);
  }
}
