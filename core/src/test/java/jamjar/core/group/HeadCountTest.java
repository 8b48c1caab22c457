package jamjar.core.group;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.group.Member.Standing;
import java.util.List;
import org.junit.jupiter.api.Test;

class HeadCountTest {
  private static final long NOW = 1_800_000_000_000L;

  private static Member member(String name, Standing standing, long seconds) {
    return new Member(name, "gates", "Southmole", standing, NOW - 1000 * seconds);
  }

  private static HeadCount count(int wanted, Member... members) {
    return HeadCount.of("gates", wanted, List.of(members), List.of(), NOW);
  }

  @Test
  void all_that_should_be_there_answer() {
    HeadCount count =
        count(2, member("gate-1", Standing.ANSWERS, 0), member("gate-2", Standing.ANSWERS, 0));
    assertThat(count.missing()).isZero();
    assertThat(count.extra()).isZero();
    assertThat(count.words()).isEqualTo("2 of 2 answer");
  }

  @Test
  void one_that_does_not_answer_is_missing_by_name_once_it_is_away_for_two_and_a_half_minutes() {
    Member[] gates = {
      member("gate-1", Standing.ANSWERS, 9),
      member("gate-2", Standing.SILENT, 149),
      member("gate-3", Standing.UNREACHABLE, 150),
    };
    HeadCount count = count(3, gates);
    assertThat(count.present()).isEqualTo(2);
    assertThat(count.missing()).isOne();
    assertThat(count.away()).containsExactly("gate-3");
    assertThat(count.words()).isEqualTo("2 of 3 answer, missing gate-3");
  }

  @Test
  void of_more_than_there_should_be_one_may_be_away_and_of_two_away_one_is_missing() {
    Member here = member("gate-1", Standing.ANSWERS, 9);
    Member away = member("gate-2", Standing.SILENT, 900);
    Member other = member("gate-3", Standing.SILENT, 900);
    assertThat(count(1, here, away).missing()).isZero();
    assertThat(count(2, here, away, other).words())
        .isEqualTo("1 of 2 answer, missing 1 of gate-2, gate-3");
  }

  @Test
  void one_that_nobody_ever_named_is_missing_too() {
    assertThat(count(2, member("gate-1", Standing.ANSWERS, 9)).words())
        .isEqualTo("1 of 2 answer, 1 missing, known by no name");
  }

  @Test
  void who_rests_is_not_expected_and_who_was_not_asked_yet_is_not_missing() {
    HeadCount count =
        count(
            3,
            member("gate-1", Standing.RESTING, 9999),
            member("gate-2", Standing.NOT_KNOWN, 9999),
            member("gate-3", Standing.ANSWERS, 9999));
    assertThat(count.expected()).isEqualTo(2);
    assertThat(count.missing()).isZero();
    assertThat(count.extra()).isZero();
  }

  @Test
  void too_many_are_named_who_is_not_watched_first_then_who_came_last() {
    List<Member> gates =
        List.of(
            member("gate-1", Standing.ANSWERS, 9),
            member("gate-2", Standing.ANSWERS, 9),
            member("gate-3", Standing.ANSWERS, 9));
    HeadCount count = HeadCount.of("gates", 2, gates, List.of("process 77"), NOW);
    assertThat(count.extra()).isEqualTo(2);
    assertThat(count.beyond()).containsExactly("process 77", "gate-3");
    assertThat(count.words()).isEqualTo("4 of 2 answer, too many: process 77, gate-3");
  }

  @Test
  void a_site_is_unreachable_when_half_of_it_and_at_least_two_are_silent() {
    Member answers = member("a", Standing.ANSWERS, 9);
    Member silent = member("b", Standing.SILENT, 9);
    Member refused = member("c", Standing.UNREACHABLE, 9);
    Member rests = member("d", Standing.RESTING, 9);
    assertThat(site(answers, silent).unreachable()).isFalse();
    assertThat(site(answers, answers, silent, silent).unreachable()).isTrue();
    assertThat(site(answers, answers, answers, silent, silent).unreachable()).isFalse();
    assertThat(site(refused, refused, refused).unreachable()).isFalse();
    assertThat(site(rests, rests, silent, silent, answers).words()).isEqualTo("2 of 3 silent");
    assertThat(site(silent).tells()).isFalse();
  }

  @Test
  void who_is_silent_with_all_of_its_site_is_not_missing_and_who_refuses_is() {
    Member silent = member("a", Standing.SILENT, 900);
    Member other = member("b", Standing.SILENT, 900);
    Member refused = member("c", Standing.UNREACHABLE, 900);
    List<SiteCount> sites = List.of(site(silent, other, refused));
    assertThat(silent.behind(sites).standing()).isEqualTo(Standing.NOT_KNOWN);
    assertThat(refused.behind(sites).standing()).isEqualTo(Standing.UNREACHABLE);
    assertThat(silent.behind(List.of(site(silent, refused))).standing()).isEqualTo(Standing.SILENT);
  }

  private static SiteCount site(Member... members) {
    return SiteCount.of("Southmole", List.of(members));
  }
}
