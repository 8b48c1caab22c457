package jamjar.server.limits;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket.Entry;
import jamjar.core.limit.Fullness;
import jamjar.core.limit.Limit;
import jamjar.server.instances.JarView;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntFunction;

/** How full the jars are. */
final class Jars {
  private Jars() {}

  private record Candidate(Entry entry, double good, double value, double share) {}

  static Optional<JarView> of(InstanceJudge judge, int shownBefore, IntFunction<Normal> normals) {
    List<Candidate> candidates = new ArrayList<>();
    for (Entry entry : judge.entries()) {
      Limit limit = entry.inForce().limit();
      boolean gauge =
          (limit.condition() == Condition.ABOVE || limit.condition() == Condition.BELOW)
              && limit.critical().present();
      if (gauge) {
        CounterDefinition counter = entry.counter();
        double good = counter.goodEnd();
        if (limit.condition() == Condition.BELOW && good == 0) {
          good = normals.apply(entry.series()).p95();
        }
        double value = judge.lastMinute(entry);
        double share = Fullness.of(good, value, limit.critical().number());
        if (!Double.isNaN(share)) {
          candidates.add(new Candidate(entry, good, value, share));
        }
      }
    }
    if (candidates.isEmpty()) {
      return Optional.empty();
    }
    int tightest =
        Fullness.tightest(
                candidates.stream()
                    .map(c -> new Fullness.Share(c.entry().series(), c.share()))
                    .toList(),
                shownBefore)
            .series();
    return candidates.stream()
        .filter(c -> c.entry().series() == tightest)
        .findFirst()
        .map(c -> view(c, normals.apply(tightest)));
  }

  private static JarView view(Candidate c, Normal normal) {
    double critical = c.entry().inForce().limit().critical().number();
    return new JarView(
        c.entry().series(),
        c.entry().counter().title(),
        c.entry().counter().unit(),
        c.share(),
        c.value(),
        critical,
        known(Fullness.of(c.good(), normal.p05(), critical)),
        known(Fullness.of(c.good(), normal.p95(), critical)));
  }
}
