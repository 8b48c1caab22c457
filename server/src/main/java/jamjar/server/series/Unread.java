package jamjar.server.series;

import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Shown;
import jamjar.server.watch.Watch;
import jamjar.store.instances.InstanceRow;
import org.springframework.stereotype.Component;

/** Why a series has no value now. */
@Component
public class Unread {
  private final Watch watch;

  Unread(Watch watch) {
    this.watch = watch;
  }

  /**
   * @param shown how it was in the latest reading; null where it was not in it
   * @param lasting for what reason there is nothing for some time; null for none
   * @return empty where there is a value
   */
  public String why(InstanceRow instance, Shown shown, String lasting) {
    if (instance.paused()) {
      return "paused";
    }
    if (shown != null && shown.why() == null && !Double.isNaN(shown.value())) {
      return "";
    }
    if (shown != null && shown.why() != null) {
      return shown.why().words();
    }
    if (watch.state(instance.id()).filter(s -> s.state().cutOff()).isPresent()) {
      return WhyNothing.CUT_OFF.words();
    }
    // what is not in the latest reading: its label may be gone
    return (lasting == null ? WhyNothing.NOT_YET_KNOWN : WhyNothing.valueOf(lasting)).words();
  }
}
