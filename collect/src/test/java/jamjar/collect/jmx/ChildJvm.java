package jamjar.collect.jmx;

import jamjar.collect.Target;
import java.io.IOException;
import java.io.Serializable;
import java.lang.management.ManagementFactory;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import javax.management.ObjectName;

/** A JVM as a process of its own that does nothing but answer over JMX. */
public final class ChildJvm implements AutoCloseable {
  private final Process process;
  private final int port;

  /** What it runs. */
  public static final class Sleeper {
    public static void main(String[] args) throws Exception {
      List<byte[]> kept = new ArrayList<>();
      for (int i = 0; i < 200; i++) {
        kept.add(new byte[10_000]);
      }
      ManagementFactory.getPlatformMBeanServer().registerMBean(new Odd(), new ObjectName(ODD));
      if (args.length > 0 && args[0].equals(RING)) {
        ring();
      }
      System.gc();
      System.out.println("ready " + kept.size());
      // until whoever started it has gone
      while (System.in.read() >= 0) {
        kept.clear();
      }
    }

    /** Two that wait for each other, and one behind the first. */
    private static void ring() throws InterruptedException {
      Object payment = new Object();
      Object refund = new Object();
      CountDownLatch both = new CountDownLatch(2);
      List<Thread> all =
          List.of(
              new Thread(() -> takes(payment, refund, both), "pay"),
              new Thread(() -> takes(refund, payment, both), "refund"),
              new Thread(() -> behind(payment, both), "clerk"));
      for (Thread one : all) {
        one.setDaemon(true);
        one.start();
      }
      while (!all.stream().allMatch(one -> one.getState() == Thread.State.BLOCKED)) {
        Thread.onSpinWait();
      }
    }

    private static void takes(Object first, Object then, CountDownLatch both) {
      synchronized (first) {
        both.countDown();
        behind(then, both);
      }
    }

    private static void behind(Object lock, CountDownLatch both) {
      try {
        both.await();
      } catch (InterruptedException e) {
        return;
      }
      synchronized (lock) {
        throw new IllegalStateException("it was to wait for ever");
      }
    }
  }

  /** By this label two of its threads wait for each other. */
  static final String RING = "ring";

  private ChildJvm(Process process, int port) {
    this.process = process;
    this.port = port;
  }

  /**
   * Starts it and waits until it runs.
   *
   * @param options system properties of com.sun.management.jmxremote, without that prefix; none for
   *     one that does not answer by itself
   */
  static ChildJvm start(Map<String, String> options, String... more) throws IOException {
    return start("", List.of(), options, more);
  }

  /**
   * @param label by which its command is told from those of other tests
   */
  static ChildJvm labelled(String label, Map<String, String> options, String... more)
      throws IOException {
    return start(label, List.of(), options, more);
  }

  /**
   * @param under the command that it is run by, such as one that sets another clock
   */
  static ChildJvm start(List<String> under, Map<String, String> options, String... more)
      throws IOException {
    return start("", under, options, more);
  }

  private static ChildJvm start(
      String label, List<String> under, Map<String, String> options, String... more)
      throws IOException {
    int port = freePort();
    List<String> command = new ArrayList<>(under);
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(List.of("-Xmx64m", "-XX:+UseSerialGC"));
    if (!options.isEmpty()) {
      String prefix = "-Dcom.sun.management.jmxremote.";
      command.add(prefix + "port=" + port);
      command.add(prefix + "rmi.port=" + port);
      command.add(prefix + "host=127.0.0.1");
      command.add("-Djava.rmi.server.hostname=127.0.0.1");
      options.forEach((name, value) -> command.add(prefix + name + "=" + value));
    }
    command.addAll(List.of(more));
    return run(command, port, label);
  }

  /** One that is started with these options and no others. */
  static ChildJvm with(List<String> options, String... more) throws IOException {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(options);
    command.addAll(List.of(more));
    return run(command, 0, "");
  }

  private static ChildJvm run(List<String> command, int port, String label) throws IOException {
    command.addAll(
        List.of("-cp", System.getProperty("java.class.path"), Sleeper.class.getName(), label));
    Process process =
        new ProcessBuilder(command).redirectError(ProcessBuilder.Redirect.INHERIT).start();
    String line = process.inputReader().readLine();
    if (line == null || !line.startsWith("ready")) {
      throw new IOException("the JVM did not start: " + line);
    }
    return new ChildJvm(process, port);
  }

  static int freePort() throws IOException {
    try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      return socket.getLocalPort();
    }
  }

  long process() {
    return process.pid();
  }

  Target target() {
    return target("127.0.0.1", Target.Tls.OFF, "", "", "");
  }

  Target target(String host, Target.Tls tls, String ca, String user, String password) {
    return new Target(host, port, "", tls, ca, user, password);
  }

  /** What the JDK's own tool says of it. */
  String tool(String... command) throws IOException {
    List<String> all = new ArrayList<>();
    all.add(Path.of(System.getProperty("java.home"), "bin", "jcmd").toString());
    all.add(Long.toString(process.pid()));
    all.addAll(List.of(command));
    Path output = Files.createTempFile("jcmd", ".txt");
    try {
      Process tool =
          new ProcessBuilder(all).redirectErrorStream(true).redirectOutput(output.toFile()).start();
      if (!tool.waitFor(30, TimeUnit.SECONDS)) {
        tool.destroyForcibly();
        throw new IOException("no answer of jcmd within 30 s");
      }
      return Files.readString(output);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException(e);
    } finally {
      Files.delete(output);
    }
  }

  @Override
  public void close() {
    process.destroyForcibly();
    process.onExit().join();
  }

  /** A bean of which not all can be read. */
  static final String ODD = "test:type=Odd";

  public interface OddMBean {
    int getGood();

    Thing getForeign();

    int getBlocking() throws InterruptedException;

    int getThrowing();
  }

  /** Of a class that nobody else knows. */
  public record Thing(int number) implements Serializable {}

  /** As above. */
  public static final class Odd implements OddMBean {
    @Override
    public int getGood() {
      return 7;
    }

    @Override
    public Thing getForeign() {
      return new Thing(1);
    }

    @Override
    public int getBlocking() throws InterruptedException {
      Thread.sleep(30_000);
      return 1;
    }

    @Override
    public int getThrowing() {
      throw new IllegalStateException("out of order");
    }
  }
}
