package jamjar.server.watch;

import jakarta.annotation.PostConstruct;
import jakarta.annotation.PreDestroy;
import jamjar.store.intake.Intake;
import java.lang.management.ManagementFactory;
import javax.management.JMException;
import javax.management.MBeanServer;
import javax.management.ObjectName;
import org.springframework.stereotype.Component;

/** Registers what Jam Jar tells of itself. */
@Component
class WatchBean implements WatchMXBean {
  private final MBeanServer server = ManagementFactory.getPlatformMBeanServer();
  private final Watch watch;
  private final WatchCounts counts;
  private final Intake intake;
  // a process may hold more than one server, as those of tests do
  private final String name = "jamjar:type=Watch,server=" + System.identityHashCode(this);

  WatchBean(Watch watch, WatchCounts counts, Intake intake) {
    this.watch = watch;
    this.counts = counts;
    this.intake = intake;
  }

  @PostConstruct
  void register() throws JMException {
    server.registerMBean(this, new ObjectName(name));
  }

  @PreDestroy
  void unregister() throws JMException {
    server.unregisterMBean(new ObjectName(name));
  }

  @Override
  public double getLateSeconds() {
    return counts.worstLate();
  }

  @Override
  public double getBehindSeconds() {
    return intake.behindSeconds();
  }

  @Override
  public long getJournalBytes() {
    return intake.behindBytes();
  }

  @Override
  public long getReadings() {
    return counts.readings();
  }

  @Override
  public long getDropped() {
    return counts.droppedReadings();
  }

  @Override
  public long getSkipped() {
    return counts.skippedReadings();
  }

  @Override
  public int getInstances() {
    return watch.counted().size();
  }

  @Override
  public int getSilent() {
    return (int) watch.counted().stream().filter(s -> s.state().cutOff()).count();
  }
}
