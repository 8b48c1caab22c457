package jamjar.server.telling;

import jakarta.annotation.PostConstruct;
import jakarta.annotation.PreDestroy;
import java.lang.management.ManagementFactory;
import javax.management.JMException;
import javax.management.MBeanServer;
import javax.management.ObjectName;
import org.springframework.stereotype.Component;

/** Registers what Jam Jar tells of its telling. */
@Component
class TellingBean implements TellingMXBean {
  private final MBeanServer server = ManagementFactory.getPlatformMBeanServer();
  private final Outbox outbox;
  // a process may hold more than one server, as those of tests do
  private final String name = "jamjar:type=Telling,server=" + System.identityHashCode(this);

  TellingBean(Outbox outbox) {
    this.outbox = outbox;
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
  public int getWaiting() {
    return outbox.waiting();
  }

  @Override
  public long getFailingChannels() {
    return outbox.failing();
  }

  @Override
  public long getGivenUp() {
    return outbox.failed();
  }
}
