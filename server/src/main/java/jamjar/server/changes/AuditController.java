package jamjar.server.changes;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.constraints.Size;
import jamjar.server.files.Formulas;
import jamjar.server.problems.Times;
import jamjar.store.Store;
import jamjar.store.changes.ChangeRow;
import java.io.IOException;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.http.HttpHeaders;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Who did what, and from where, for who administers. */
@RestController
@RequestMapping("/api")
class AuditController {
  private static final int MOST = 1000;

  /** So many are held at once. */
  private static final int SOME = 100;

  private final Store store;

  AuditController(Store store) {
    this.store = store;
  }

  /**
   * A change, or a sign-in.
   *
   * @param at epoch ms
   * @param address from where; empty for what Jam Jar did by itself
   * @param of which of them
   * @param before as JSON, without secrets; null for what was not there
   * @param after as JSON, without secrets; null for what is gone
   */
  @Schema(name = "Audited")
  record Told(
      long id,
      long at,
      String who,
      String address,
      String what,
      String of,
      @Schema(types = {"string", "null"}) String before,
      @Schema(types = {"string", "null"}) String after) {
    static Told of(ChangeRow row) {
      return new Told(
          row.id(),
          row.at().toEpochMilli(),
          row.who(),
          row.address(),
          row.what(),
          row.ofWhat(),
          row.before(),
          row.after());
    }
  }

  /**
   * Those of a window, the latest first, at most 1,000.
   *
   * @param from epoch ms
   * @param to epoch ms
   * @param words of which each is in one of who, address, what and which
   */
  @GetMapping(path = "/audit", produces = "application/json")
  List<Told> between(
      @RequestParam long from,
      @RequestParam long to,
      @RequestParam(defaultValue = "") @Size(max = 200) String words) {
    return store
        .changes()
        .audit(Times.of("from", from), Times.of("to", to), patterns(words), Long.MAX_VALUE, MOST)
        .stream()
        .map(Told::of)
        .toList();
  }

  /** All of a window as a file, written as it is read. */
  @GetMapping(path = "/audit.csv", produces = "text/csv")
  void file(@RequestParam long from, @RequestParam long to, HttpServletResponse response)
      throws IOException {
    Instant begin = Times.of("from", from);
    Instant end = Times.of("to", to);
    response.setContentType("text/csv;charset=UTF-8");
    response.setHeader(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"audit.csv\"");
    try (CSVPrinter csv = new CSVPrinter(response.getWriter(), CSVFormat.RFC4180)) {
      csv.printRecord("at", "who", "address", "what", "which", "before", "after");
      long before = Long.MAX_VALUE;
      List<ChangeRow> some;
      do {
        some = store.changes().audit(begin, end, new String[0], before, SOME);
        for (ChangeRow row : some) {
          before = row.id();
          csv.printRecord(
              row.at(),
              Formulas.neutral(row.who()),
              row.address(),
              row.what(),
              Formulas.neutral(row.ofWhat()),
              row.before(),
              row.after());
        }
      } while (some.size() == SOME);
    }
  }

  /** Whatever a word holds is looked for as it is. */
  private static String[] patterns(String words) {
    return Arrays.stream(words.toLowerCase(Locale.ROOT).split("\\s+"))
        .filter(word -> !word.isEmpty())
        .toArray(String[]::new);
  }
}
