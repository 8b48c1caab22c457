package jamjar.server.watch;

import jamjar.server.live.Greeting;
import java.util.List;
import org.springframework.stereotype.Component;

/** A new live stream is told first how all instances are doing. */
@Component
class States implements Greeting {
  private final Watch watch;

  States(Watch watch) {
    this.watch = watch;
  }

  @Override
  public List<Told> first() {
    return watch.states().stream().map(LiveReadings::told).toList();
  }
}
