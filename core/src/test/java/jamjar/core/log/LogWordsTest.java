package jamjar.core.log;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.AlphaChars;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;

class LogWordsTest {
  @Test
  void a_duration_and_what_was_run_are_told_apart_from_its_parsing() {
    String ran = "duration: 2903.456 ms  execute S_3: select berths from sailing\nwhere id = $1";
    assertThat(LogWords.durationUs(ran)).hasValue(2_903_456);
    assertThat(LogWords.sent(ran)).isEqualTo("select berths from sailing\nwhere id = $1");
    assertThat(LogWords.sent("duration: 0.017 ms  statement: select 1")).isEqualTo("select 1");
    assertThat(LogWords.sent("duration: 0.017 ms  parse <unnamed>: select 1")).isEmpty();
    assertThat(LogWords.sent("duration: 0.017 ms")).isEmpty();
    assertThat(LogWords.durationUs("duration of it all")).isEmpty();
  }

  @Test
  void a_wait_that_is_over_says_for_what_and_how_long() {
    assertThat(
            LogWords.acquired(
                "process 4711 acquired ShareLock on transaction 90211 after 1204.031 ms"))
        .hasValue(new LogWords.Acquired(4711, "ShareLock on transaction ?", 1_204_031));
    assertThat(LogWords.acquired("process 4711 still waiting for ShareLock on transaction 9"))
        .isEmpty();
  }

  @Test
  void those_in_a_deadlock_are_named_with_what_they_ran() {
    String detail =
        """
        Process 31 waits for ShareLock on transaction 845; blocked by process 32.
        Process 32 waits for ShareLock on transaction 844; blocked by process 31.
        Process 31: update refund set paid = 7
          where id = 3
        Process 32: update booking set paid_at = now() where id = 9""";
    String refund = "update refund set paid = 7\n  where id = 3";
    String booking = "update booking set paid_at = now() where id = 9";
    List<LogEntry.Party> parties = LogWords.parties(detail, String::length);
    assertThat(parties)
        .containsExactly(
            new LogEntry.Party(31, "ShareLock on transaction ?", 32, refund.length()),
            new LogEntry.Party(32, "ShareLock on transaction ?", 31, booking.length()));
    assertThat(LogWords.parties("See server log for query details.", String::length)).isEmpty();
  }

  @Test
  void names_of_things_stay_in_a_message_and_values_go() {
    assertThat(LogWords.withoutValues("relation \"berth\" does not exist"))
        .isEqualTo("relation \"berth\" does not exist");
    assertThat(
            LogWords.withoutValues(
                "duplicate key value violates unique constraint \"booking_pkey\""))
        .isEqualTo("duplicate key value violates unique constraint \"booking_pkey\"");
    assertThat(
            LogWords.withoutValues("22P02", "invalid input syntax for type integer: \"4111 1111\""))
        .isEqualTo("invalid input syntax for type integer");
    assertThat(
            LogWords.withoutValues(
                "22021", "invalid byte sequence for encoding \"UTF8\": 0x73 0x65"))
        .isEqualTo("invalid byte sequence for encoding …");
    assertThat(LogWords.withoutValues("value \"99999999999\" is out of range for type integer"))
        .isEqualTo("value … is out of range for type integer");
    assertThat(LogWords.withoutValues("role \"hugo\" does not exist, 'x' neither"))
        .isEqualTo("role \"hugo\" does not exist, … neither");
    assertThat(LogWords.withoutValues("card 4111111111111111 refused at 12.5"))
        .isEqualTo("card ? refused at ?");
  }

  @Property
  void what_stands_in_quotes_behind_no_name_is_never_kept(
      @ForAll @AlphaChars @StringLength(min = 8, max = 20) String secret) {
    assertThat(LogWords.withoutValues("could not parse \"" + secret + "\" here"))
        .doesNotContain(secret);
    assertThat(LogWords.withoutValues("could not parse '" + secret + "' here"))
        .doesNotContain(secret);
  }

  @Test
  void what_a_procedure_says_is_not_the_engines() {
    assertThat(LogWords.isRaised("P0001", "")).isTrue();
    assertThat(LogWords.isRaised("23505", "PL/pgSQL function pay(integer) line 3 at RAISE\nSQL"))
        .isTrue();
    assertThat(LogWords.isRaised("XX000", "PL/Perl function \"pay\"")).isTrue();
    assertThat(LogWords.isRaised("22012", "PL/pgSQL function pay(integer) line 3 at assignment"))
        .isFalse();
    assertThat(LogWords.isRaised("42P01", "")).isFalse();
  }

  @Test
  void numbers_that_no_engine_tells_are_none() {
    String many = "9".repeat(40);
    assertThat(LogWords.durationUs("duration: " + many + ".000 ms  statement: x")).isEmpty();
    assertThat(LogWords.acquired("process " + many + " acquired X on y after 1.000 ms")).isEmpty();
    assertThat(
            LogWords.parties(
                "Process " + many + " waits for X on y; blocked by process 1.", s -> 1))
        .isEmpty();
  }

  @Test
  void a_message_of_a_million_signs_is_short_at_once_and_nothing_cut_in_quotes_is_kept() {
    String hostile = ": a".repeat(400_000);
    assertThat(LogWords.withoutValues("42601", hostile).length()).isLessThanOrEqualTo(301);
    String cut = "x ".repeat(120) + "\"" + "secret".repeat(500) + "\"";
    assertThat(LogWords.withoutValues("42601", cut)).doesNotContain("secret");
  }
}
