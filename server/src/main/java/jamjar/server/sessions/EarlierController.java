package jamjar.server.sessions;

import jamjar.core.session.Holder;
import jamjar.core.session.Sample;
import jamjar.server.instances.InstanceService;
import jamjar.server.problems.Fingerprints;
import jamjar.server.problems.Times;
import jamjar.server.readings.SameHour;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Whether who holds up others did so on earlier days, too. */
@RestController
@RequestMapping(path = "/api/instances/{id}/locks/earlier", produces = "application/json")
class EarlierController {
  /** Of samples packed, of all days together. */
  private static final long MOST_BYTES = 64L << 20;

  private final Store store;
  private final InstanceService instances;

  EarlierController(Store store, InstanceService instances) {
    this.store = store;
    this.instances = instances;
  }

  /** The worst moment of a day. */
  private static final class Looking {
    final Holder holder;
    boolean any;
    long at;
    int waiting;

    Looking(Holder holder) {
      this.holder = holder;
    }

    void add(Sample sample) {
      any = true;
      OptionalInt now = holder.keeps(sample);
      if (now.orElse(0) > waiting) {
        waiting = now.getAsInt();
        at = sample.at().toEpochMilli();
      }
    }
  }

  /**
   * @param at epoch ms: half an hour before and after it is looked at on each of 14 days before, in
   *     the instance's zone
   * @param statement fingerprint in hexadecimal; empty for none
   */
  @GetMapping
  EarlierView earlier(
      @PathVariable int id,
      @RequestParam long at,
      @RequestParam String user,
      @RequestParam String program,
      @RequestParam(defaultValue = "") String statement) {
    InstanceRow row = instances.row(id);
    Holder holder = new Holder(user, program, Fingerprints.of("statement", statement));
    long bytes = 0;
    int looked = 0;
    List<EarlierView.Day> days = new ArrayList<>();
    for (SameHour hour : SameHour.before(Times.of("at", at), ZoneId.of(row.zone()))) {
      bytes += store.samples().bytes(id, hour.from(), hour.to());
      if (bytes > MOST_BYTES) {
        break;
      }
      Looking looking = new Looking(holder);
      store.samples().between(id, hour.from(), hour.to(), looking::add);
      looked += looking.any ? 1 : 0;
      if (looking.waiting > 0) {
        days.add(new EarlierView.Day(looking.at, looking.waiting));
      }
    }
    return new EarlierView(looked, days);
  }
}
