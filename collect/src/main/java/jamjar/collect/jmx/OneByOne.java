package jamjar.collect.jmx;

import jamjar.collect.Target;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import javax.management.InstanceNotFoundException;
import javax.management.JMException;
import javax.management.MBeanAttributeInfo;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;

/**
 * Reads the attributes of a bean for a person who waits: one by one, so that one that can't be read
 * leaves the others alone, and one that does not answer soon is left behind. What was left behind
 * is not asked again for a while: at most one call of it hangs over there.
 */
final class OneByOne {
  private static final long PATIENCE_MILLIS = 400;

  /**
   * Attributes that are left behind; then the rest is not asked, as it is the target that hangs.
   */
  private static final int MOST_BEHIND = 2;

  private final Target target;
  private final ObjectName name;
  private final MBeanServerConnection server;

  OneByOne(Target target, ObjectName name, MBeanServerConnection server) {
    this.target = target;
    this.name = name;
    this.server = server;
  }

  List<BeanAttribute> read(List<MBeanAttributeInfo> infos) throws IOException, JMException {
    List<BeanAttribute> all = new ArrayList<>();
    ExecutorService asking =
        Executors.newCachedThreadPool(
            task -> {
              Thread thread = new Thread(task, "beans-" + target.address());
              thread.setDaemon(true);
              return thread;
            });
    int behind = 0;
    try {
      for (MBeanAttributeInfo info : infos) {
        if (Troubled.mayHang(target, name, info.getName())) {
          all.add(
              BeanAttribute.unread(
                  info, "it did not answer a while ago, and is not asked again yet"));
        } else if (behind >= MOST_BEHIND) {
          all.add(BeanAttribute.unread(info, "not asked, as others do not answer"));
        } else {
          Future<BeanAttribute> answer = asking.submit(() -> answered(info));
          try {
            all.add(answer.get(PATIENCE_MILLIS, TimeUnit.MILLISECONDS));
          } catch (TimeoutException e) {
            behind++;
            Troubled.hangs(target, name, info.getName());
            if (answer.isDone()) {
              // just now
              Troubled.answers(target, name, info.getName());
            }
            all.add(BeanAttribute.unread(info, "it blocks: no answer in time"));
          }
        }
      }
      return all;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException("the server is stopping", e);
    } catch (java.util.concurrent.ExecutionException e) {
      throw thrown(e.getCause());
    } finally {
      asking.shutdown();
    }
  }

  /** One that answers late does not hang: it may be asked again. */
  private BeanAttribute answered(MBeanAttributeInfo info) throws InstanceNotFoundException {
    BeanAttribute answer = ask(info);
    Troubled.answers(target, name, info.getName());
    return answer;
  }

  private BeanAttribute ask(MBeanAttributeInfo info) throws InstanceNotFoundException {
    try (TlsOfTarget about = TlsOfTarget.of(target)) {
      return BeanAttribute.of(info, server.getAttribute(name, info.getName()));
    } catch (InstanceNotFoundException e) {
      throw e;
    } catch (Exception e) {
      return BeanAttribute.unread(info, e);
    }
  }

  private static IOException thrown(Throwable cause) throws JMException {
    if (cause instanceof JMException failure) {
      throw failure;
    }
    return new IOException(cause);
  }
}
