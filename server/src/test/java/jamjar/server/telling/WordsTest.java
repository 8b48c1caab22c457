package jamjar.server.telling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import jamjar.core.telling.AlertKey;
import jamjar.core.telling.Figures;
import jamjar.core.telling.Subject;
import jamjar.core.telling.Told;
import jamjar.core.telling.Told.Item;
import jamjar.core.telling.Told.Kind;
import jamjar.core.telling.Way;
import jamjar.server.numbers.Units;
import jamjar.server.problems.Problem;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.net.UnknownHostException;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What is told, and what never is, whatever somebody named something. */
class WordsTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final long SINCE = Instant.parse("2026-03-03T01:10:00Z").toEpochMilli();
  private static final Words WORDS = new Words(OSLO, item -> Optional.empty());

  private static Item item(String name, Condition condition, long ended) {
    return new Item(
        new AlertKey(1, 10, condition, SINCE + 20_000),
        new Subject(
            1,
            name,
            "postgresql",
            "booking-db",
            "Northquay",
            List.of(),
            false,
            "sessions.waiting_lock",
            Map.of(),
            Set.of()),
        Severity.CRITICAL,
        new Figures(9, 0, 0.2, 5, 7.4, SINCE),
        ended);
  }

  private static Told told(Kind kind, Item... items) {
    return new Told(
        kind,
        "m",
        "anna",
        List.of(new Way("mail", "anna@skerry.invalid")),
        "critical",
        SINCE + 34 * 60_000,
        Severity.CRITICAL,
        List.of(items));
  }

  @Test
  void the_subject_alone_suffices() {
    assertThat(WORDS.subject(told(Kind.RISE, item("booking-db-a", Condition.ABOVE, 0))))
        .isEqualTo(
            "Critical: booking-db-a: sessions.waiting_lock 9, normal 0 – 0.200, limit 5"
                + " since 02:10");
    assertThat(
            WORDS.subject(
                told(
                    Kind.WORSE,
                    item("booking-db-a", Condition.OUTSIDE, 0),
                    item("booking-1", Condition.ABOVE, 0))))
        .isEqualTo(
            "Worse, critical: booking-db-a: sessions.waiting_lock 9, normal 0 – 0.200,"
                + " 7.40 spreads outside since 02:10 (with booking-1)");
    assertThat(
            WORDS.subject(
                told(Kind.OVER, item("booking-db-a", Condition.ABOVE, SINCE + 2_040_000))))
        .isEqualTo("Over: booking-db-a: sessions.waiting_lock, after 34 min");
    assertThat(WORDS.subject(told(Kind.RISE, item("booking-1", Condition.SILENT, 0))))
        .isEqualTo("Critical: booking-1 is silent since 02:10");
    assertThat(WORDS.body(told(Kind.RISE, item("booking-db-a", Condition.ABOVE, 0))))
        .endsWith("since 02:10 (34 min)");
  }

  @Test
  void of_a_digest_each_is_named() {
    Item[] all =
        IntStream.range(0, 500)
            .mapToObj(i -> item("node-" + i, Condition.ABOVE, 0))
            .toArray(Item[]::new);
    Told digest = told(Kind.DIGEST, all);
    assertThat(WORDS.subject(digest)).startsWith("500 alerts at once: node-0, node-1");
    assertThat(WORDS.body(digest).lines()).hasSize(500).anyMatch(line -> line.contains("node-499"));
  }

  @Test
  void a_name_ends_no_head() {
    Item evil = item("a\r\nBcc: all@skerry.invalid\u2028\u0000", Condition.SILENT, 0);
    String subject = WORDS.subject(told(Kind.RISE, evil));
    assertThat(subject).doesNotContain("\r", "\n", "\u2028", "\u0000").contains("Bcc: all");
    assertThat(MailSender.id("1-2-above-3/rise-2/a\r\nb>/mail")).matches("<[A-Za-z0-9._@-]+>");
    for (String address :
        List.of(
            "a@b.invalid\r\nBcc: c@d.invalid",
            "a@b.invalid, c@d.invalid",
            "nobody",
            "a@b.invalid\nX: y",
            "")) {
      assertThatThrownBy(() -> Addresses.check("address", address)).isInstanceOf(Problem.class);
    }
    Addresses.check("address", "Anna Berg <anna@skerry.invalid>");
  }

  @Test
  void a_template_puts_in_texts_and_runs_nothing() {
    Letter letter =
        new Letter(
            "k",
            "rise",
            "critical",
            "m",
            "anna",
            "",
            List.of("1-2-above-3"),
            "a \"quoted\" {{text}} ${7*7}",
            "two\nlines",
            "",
            "http://x.invalid/a",
            null,
            5);
    String filled = Template.filled("{\"text\": \"{{subject}}: {{ text }}\"}", letter);
    JsonNode read = new JsonMapper().readTree(filled);
    assertThat(read.get("text").asString()).isEqualTo("a \"quoted\" {{text}} ${7*7}: two\nlines");
    JsonNode all = new JsonMapper().readTree(Template.filled("", letter));
    assertThat(all.get("version").asInt()).isEqualTo(1);
    assertThat(all.get("alerts").get(0).asString()).isEqualTo("1-2-above-3");
    Template.check("");
    Template.check("{\"a\": \"{{link}}\"}");
    for (String evil :
        List.of(
            "{\"a\": \"{{T(java.lang.Runtime).getRuntime().exec('x')}}\"}",
            "{\"a\": \"{{secret}}\"}",
            "{\"a\": \"{{sub{{text}}ject}}\"}",
            "{\"a\": {{subject}",
            "<script>{{subject}}</script>")) {
      assertThatThrownBy(() -> Template.check(evil)).as(evil).isInstanceOf(Problem.class);
    }
  }

  @Test
  void what_is_signed_can_be_checked_by_others() {
    // printf '1.{}' | openssl dgst -sha256 -hmac key
    assertThat(HookSender.signature("key", "1", "{}"))
        .isEqualTo("1ba6b8171186efc613e8bcc0cbdab2748f24984d7c5a84faa2637afa0e40d224");
  }

  @Test
  void a_hook_leads_out_of_the_own_network_or_nowhere() throws Exception {
    OwnNetwork network = new OwnNetwork("127.0.0.1, ::1");
    network.check("127.0.0.1");
    for (String own :
        List.of(
            "127.0.0.2",
            "10.1.2.3",
            "192.168.1.1",
            "172.16.0.1",
            "169.254.169.254",
            "0.0.0.0",
            "100.64.0.1",
            "fd00::1",
            "fe80::1",
            "::",
            "::ffff:10.0.0.1",
            "224.0.0.1",
            "255.255.255.255",
            "64:ff9b::a00:1")) {
      assertThatThrownBy(() -> network.check(own))
          .as(own)
          .isInstanceOf(OwnNetwork.Refused.class)
          .hasMessageContaining("own network");
    }
    assertThatThrownBy(() -> network.check("hook.invalid"))
        .isInstanceOf(UnknownHostException.class)
        .isNotInstanceOf(OwnNetwork.Refused.class);
  }

  @Test
  void numbers_are_told_as_on_the_screens() {
    assertThat(Units.number(9, "")).isEqualTo("9");
    assertThat(Units.number(0.2, "")).isEqualTo("0.200");
    assertThat(Units.number(0.0124, "s")).isEqualTo("12.4 ms");
    assertThat(Units.number(1.5 * 1024 * 1024, "B")).isEqualTo("1.50 MiB");
    assertThat(Units.number(99.97, "%")).isEqualTo("99.97 %");
    assertThat(Units.number(90_700, "s")).isEqualTo("25.2 h");
    assertThat(Units.range(0.017, 0.0181, "s")).isEqualTo("17.0 – 18.1 ms");
    assertThat(Units.span(34 * 60_000)).isEqualTo("34 min");
  }

  @Test
  void the_picture_shows_band_line_and_limit_and_leaves_gaps() throws Exception {
    long from = SINCE;
    List<Long> at = IntStream.range(0, 100).mapToObj(i -> from + i * 60_000L).toList();
    double[] value =
        IntStream.range(0, 100).mapToDouble(i -> i > 40 && i < 50 ? Double.NaN : 3).toArray();
    double[] low = IntStream.range(0, 100).mapToDouble(i -> 1).toArray();
    double[] high = IntStream.range(0, 100).mapToDouble(i -> 2).toArray();
    byte[] png =
        Pictures.png(
            new Pictures.Chart(
                "booking-db-a · waiting",
                "",
                OSLO,
                from,
                from + 6_000_000,
                at,
                value,
                low,
                high,
                5));
    BufferedImage image = ImageIO.read(new ByteArrayInputStream(png));
    assertThat(image.getWidth()).isEqualTo(Pictures.WIDTH);
    int line = 0;
    int band = 0;
    int limit = 0;
    int inGap = 0;
    for (int x = 0; x < image.getWidth(); x++) {
      for (int y = 60; y < image.getHeight() - 60; y++) {
        int rgb = image.getRGB(x, y) & 0xFFFFFF;
        boolean ofLine = rgb == 0x3D4F9F;
        line += ofLine ? 1 : 0;
        // from 42 to 48 of 100 minutes
        double minute = (x - 130) / (1200.0 - 160) * 100;
        inGap += ofLine && minute > 42 && minute < 48 ? 1 : 0;
        band += rgb == 0xEADFC8 ? 1 : 0;
        limit += rgb == 0xB0123B ? 1 : 0;
      }
    }
    assertThat(line).isGreaterThan(800);
    assertThat(inGap).isZero();
    assertThat(band).isGreaterThan(20_000);
    assertThat(limit).isGreaterThan(900);
  }
}
