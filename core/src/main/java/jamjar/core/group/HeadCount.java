package jamjar.core.group;

import jamjar.core.group.Member.Standing;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;

/**
 * How many of a group there are against how many there should be, over all its sites.
 *
 * @param expected how many there should be now: less those that rest
 * @param present how many answer, or have been away for less than {@link #AWAY_AFTER}
 * @param missing how many fewer there are than there should be
 * @param away those that do not answer, by name; may be more than are missing, or fewer where more
 *     are expected than are known
 * @param extra how many more there are than there should be
 * @param beyond those beyond the number, by name: who is not watched first, then who came last
 */
public record HeadCount(
    String group,
    int expected,
    int present,
    int missing,
    List<String> away,
    int extra,
    List<String> beyond) {
  /** One that is started again is not missing for so long, ms. */
  public static final long AWAY_AFTER = 150_000;

  private static final int NAMED = 8;

  /**
   * Counts.
   *
   * @param wanted how many there should be when none rests
   * @param members all that are known of the group, in the order in which they came
   * @param strangers those found that run what the group runs and are not watched
   * @param now epoch ms
   */
  public static HeadCount of(
      String group,
      int wanted,
      Collection<Member> members,
      Collection<String> strangers,
      long now) {
    List<String> here = new ArrayList<>();
    List<String> away = new ArrayList<>();
    int resting = 0;
    for (Member member : members) {
      if (member.standing() == Standing.RESTING) {
        resting++;
      } else if (member.standing().away() && now - member.since() >= AWAY_AFTER) {
        away.add(member.name());
      } else {
        here.add(member.name());
      }
    }
    int expected = Math.max(0, wanted - resting);
    int present = here.size() + strangers.size();
    int extra = Math.max(0, present - expected);
    return new HeadCount(
        group,
        expected,
        present,
        Math.max(0, expected - present),
        List.copyOf(away),
        extra,
        beyond(here, strangers, extra));
  }

  private static List<String> beyond(List<String> here, Collection<String> strangers, int extra) {
    List<String> names = new ArrayList<>(strangers);
    for (int i = here.size() - 1; i >= 0; i--) {
      names.add(here.get(i));
    }
    return List.copyOf(names.subList(0, extra));
  }

  /** How it stands in words: who is missing, or too many, by name. */
  public String words() {
    String answer = present + " of " + expected + " answer";
    if (missing > 0) {
      String names =
          away.isEmpty()
              ? missing + " missing, known by no name"
              : "missing " + (away.size() > missing ? missing + " of " : "") + listed(away);
      return answer + ", " + names;
    }
    return extra > 0 ? answer + ", too many: " + listed(beyond) : answer;
  }

  private static String listed(List<String> names) {
    int more = names.size() - NAMED;
    return more <= 0
        ? String.join(", ", names)
        : String.join(", ", names.subList(0, NAMED)) + " and " + more + " more";
  }
}
