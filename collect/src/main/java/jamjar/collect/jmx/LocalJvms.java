package jamjar.collect.jmx;

import com.sun.tools.attach.AttachNotSupportedException;
import com.sun.tools.attach.VirtualMachine;
import com.sun.tools.attach.VirtualMachineDescriptor;
import jamjar.collect.Target;
import java.io.IOException;
import java.util.List;

/** The JVMs of this machine and user, as found by the attach interface of the JDK. */
public final class LocalJvms {
  /** The process that asks. */
  static final Target THIS = new Target("", 0, "", Target.Tls.OFF, "", "", "");

  private LocalJvms() {}

  /**
   * One JVM.
   *
   * @param what its main class or jar with its arguments, as the process tells it
   * @param own whether it is this process
   */
  public record Found(long process, String what, boolean own) {}

  public static List<Found> all() {
    long self = ProcessHandle.current().pid();
    return VirtualMachine.list().stream()
        .map(
            found ->
                new Found(
                    Long.parseLong(found.id()),
                    found.displayName(),
                    found.id().equals(Long.toString(self))))
        .toList();
  }

  /**
   * The address of the managed-bean server of the one JVM whose command starts with a text; it is
   * made to answer on loopback when it does not yet.
   */
  static String address(String what) throws IOException, AttachNotSupportedException {
    VirtualMachine machine = VirtualMachine.attach(one(what));
    try {
      return machine.startLocalManagementAgent();
    } finally {
      machine.detach();
    }
  }

  private static VirtualMachineDescriptor one(String what) throws IOException {
    List<VirtualMachineDescriptor> found =
        VirtualMachine.list().stream().filter(m -> m.displayName().startsWith(what)).toList();
    if (found.size() != 1) {
      throw new NotOne(
          (found.isEmpty() ? "no JVM" : found.size() + " JVMs")
              + " of this machine and user run '"
              + what
              + "'");
    }
    return found.get(0);
  }

  /** The text names no process, or several. */
  static final class NotOne extends IOException {
    NotOne(String message) {
      super(message);
    }
  }
}
