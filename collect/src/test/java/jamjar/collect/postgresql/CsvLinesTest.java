package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.log.LogEntry;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class CsvLinesTest {
  private static final String SLOW =
      "2026-07-26 04:10:05.123 CEST,\"booking_app\",\"bookings\",4377,\"10.20.1.11:40112\",6a1.1119,"
          + "7,\"SELECT\",2026-07-26 03:00:01 CEST,5/120,0,LOG,00000,"
          + "\"duration: 2903.456 ms  execute <unnamed>: select berths\n from sailing"
          + " where id = 4711 and name = 'O''Hara \"\"x\"\"'\",\"parameters: $1 = 'secret'\",,,,,,,,"
          + "\"booking-web\",\"client backend\",,-42\n";

  private final Map<Long, String> texts = new HashMap<>();
  private final CsvLines lines = new CsvLines(ZoneId.of("Europe/Oslo"), texts);

  private List<LogEntry> read(String text) {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    return lines.read(bytes, CsvLines.whole(bytes));
  }

  @Test
  void a_statement_of_several_lines_is_one_and_its_values_are_not_kept() {
    List<LogEntry> all = read(SLOW);
    assertThat(all).hasSize(1);
    LogEntry one = all.get(0);
    assertThat(one.kind()).isEqualTo(LogEntry.Kind.FINISHED);
    assertThat(Instant.ofEpochMilli(one.at())).isEqualTo("2026-07-26T02:10:05.123Z");
    assertThat(Instant.ofEpochMilli(one.started())).isEqualTo("2026-07-26T01:00:01Z");
    assertThat(one.durationUs()).isEqualTo(2_903_456);
    assertThat(one.pid()).isEqualTo(4377);
    assertThat(one.program()).isEqualTo("booking-web");
    assertThat(texts.values())
        .containsExactly("select berths from sailing where id = ? and name = ?");
    assertThat(all.toString() + texts).doesNotContain("4711").doesNotContain("secret");
  }

  @Test
  void half_a_line_waits_for_its_other_half() {
    byte[] whole = (SLOW + SLOW).getBytes(StandardCharsets.UTF_8);
    for (int cut = SLOW.length(); cut < whole.length; cut += 17) {
      byte[] part = Arrays.copyOf(whole, cut);
      assertThat(CsvLines.whole(part)).isEqualTo(SLOW.length());
    }
    assertThat(CsvLines.whole(whole)).isEqualTo(whole.length);
    assertThat(read(SLOW + SLOW)).hasSize(2);
  }

  @Test
  void from_anywhere_the_next_line_is_found_within_quotes_too() {
    byte[] all = ("Schiff, \"Möwe\n" + SLOW + SLOW).getBytes(StandardCharsets.UTF_8);
    int begin = CsvLines.begin(all);
    byte[] rest = Arrays.copyOfRange(all, begin, all.length);
    assertThat(lines.read(rest, CsvLines.whole(rest))).hasSize(2);
    // from the midst of a statement of two lines
    byte[] middle = SLOW.substring(SLOW.indexOf("berths")).getBytes(StandardCharsets.UTF_8);
    assertThat(CsvLines.begin(middle)).isEqualTo(middle.length);
    assertThat(CsvLines.begin(SLOW.getBytes(StandardCharsets.UTF_8))).isZero();
  }

  @Test
  void lines_that_are_none_are_passed_over() {
    assertThat(read("what is this\n" + SLOW + "a,b,c\n")).hasSize(1);
    assertThat(read("\n\n")).isEmpty();
    assertThat(read(SLOW.replace("2026-07-26 04:10:05.123 CEST", "yesterday"))).isEmpty();
    // what Jam Jar itself runs is its own cost
    assertThat(read(SLOW.replace("booking-web", "jamjar-fast"))).isEmpty();
  }
}
