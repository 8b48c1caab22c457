package jamjar.collect.jmx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import java.io.Serializable;
import java.lang.reflect.InvocationHandler;
import java.lang.reflect.Proxy;
import java.rmi.Remote;
import java.rmi.registry.LocateRegistry;
import java.rmi.registry.Registry;
import java.rmi.server.UnicastRemoteObject;
import java.time.Clock;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;
import java.util.stream.Stream;
import javax.management.remote.rmi.RMIConnection;
import javax.management.remote.rmi.RMIServer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What pretends to be a JVM, and answers what does harm to who reads it. */
class HostileJmxTest {
  private static final AtomicInteger MADE = new AtomicInteger();

  /** Its code would run here, were it made from what comes over the wire. */
  public static final class Trap implements Serializable {
    private static final long serialVersionUID = 1L;

    private Object readResolve() {
      MADE.incrementAndGet();
      return this;
    }

    @Override
    public String toString() {
      MADE.incrementAndGet();
      return "trap";
    }
  }

  static Stream<Arguments> answers() {
    return Stream.of(
        Arguments.of("a foreign class", (Supplier<Object>) Trap::new),
        Arguments.of("sets in sets, forty deep", (Supplier<Object>) () -> deep(40)),
        Arguments.of("a very long array", (Supplier<Object>) () -> new int[2_000_000]),
        Arguments.of("endless references", (Supplier<Object>) HostileJmxTest::wide));
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("answers")
  void what_is_not_taken_is_refused_in_words_before_any_of_it_is_made(
      String what, Supplier<Object> answer) throws Exception {
    try (Impostor impostor = new Impostor(answer)) {
      assertThat(reason(impostor.target())).isEqualTo(Reason.FOREIGN);
      // and again: nothing is left of it
      assertThat(reason(impostor.target())).isEqualTo(Reason.FOREIGN);
    }
    assertThat(MADE).hasValue(0);
  }

  @Test
  void one_that_hands_on_to_another_machine_is_not_followed() throws Exception {
    Map<String, String> open = Map.of("authenticate", "false", "ssl", "false");
    try (ChildJvm jvm = ChildJvm.start(open, "-Djava.rmi.server.hostname=elsewhere.invalid")) {
      CollectFailed failed = failed(jvm.target());
      assertThat(failed.refusal().reason()).isEqualTo(Reason.HANDED_ELSEWHERE);
      assertThat(failed.refusal().answered()).contains("elsewhere.invalid");
    }
  }

  private static Reason reason(Target target) {
    return failed(target).refusal().reason();
  }

  private static CollectFailed failed(Target target) {
    try (JmxCollector collector =
        JmxCollector.of(target, RecipeFile.shipped("jvm"), Pace.FAST, Clock.systemUTC())) {
      return catchThrowableOfType(CollectFailed.class, collector::read);
    }
  }

  /** Each level doubles the time that it takes to make it. */
  private static Set<Object> deep(int levels) {
    Set<Object> root = new HashSet<>();
    Set<Object> one = root;
    Set<Object> other = new HashSet<>();
    for (int i = 0; i < levels; i++) {
      Set<Object> nextOne = new HashSet<>();
      Set<Object> nextOther = new HashSet<>();
      nextOne.add("x" + i);
      // its hash is not computed on the way in, as it is still empty
      one.add(nextOne);
      one.add(nextOther);
      other.add(nextOne);
      other.add(nextOther);
      one = nextOne;
      other = nextOther;
    }
    return root;
  }

  private static Object wide() {
    Object[] rows = new Object[400_000];
    for (int i = 0; i < rows.length; i++) {
      rows[i] = new Object[] {new long[1], new long[1], new long[1], new long[1]};
    }
    return new Object[] {rows, rows.clone()[0], copy(rows)};
  }

  private static Object copy(Object[] rows) {
    Object[] more = new Object[400_000];
    for (int i = 0; i < more.length; i++) {
      more[i] = new Object[] {new long[1], new long[1], new long[1], new long[1]};
    }
    return more;
  }

  /** Answers whatever is asked with one thing. */
  private static final class Impostor implements AutoCloseable {
    private final int port;
    private final Registry registry;
    private final RMIServer server;
    private final RMIConnection connection;

    Impostor(Supplier<Object> answer) throws Exception {
      port = ChildJvm.freePort();
      Object told = answer.get();
      connection =
          proxy(
              RMIConnection.class,
              (self, method, args) ->
                  switch (method.getName()) {
                    case "getConnectionId" -> "rmi://127.0.0.1 impostor 1";
                    case "close" -> null;
                    case "hashCode" -> System.identityHashCode(self);
                    case "equals" -> self == args[0];
                    case "toString" -> "impostor";
                    default -> method.getReturnType() == Object.class ? told : null;
                  });
      server =
          proxy(
              RMIServer.class,
              (self, method, args) ->
                  switch (method.getName()) {
                    case "getVersion" -> "1.0 java_runtime_17";
                    case "newClient" -> UnicastRemoteObject.toStub(connection);
                    case "hashCode" -> System.identityHashCode(self);
                    case "equals" -> self == args[0];
                    default -> "impostor";
                  });
      UnicastRemoteObject.exportObject(connection, 0);
      UnicastRemoteObject.exportObject(server, 0);
      registry = LocateRegistry.createRegistry(port);
      registry.bind("jmxrmi", UnicastRemoteObject.toStub(server));
    }

    private static <T extends Remote> T proxy(Class<T> type, InvocationHandler handler) {
      return type.cast(
          Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, handler));
    }

    Target target() {
      return new Target("127.0.0.1", port, "", Target.Tls.OFF, "", "", "");
    }

    @Override
    public void close() throws Exception {
      UnicastRemoteObject.unexportObject(registry, true);
      UnicastRemoteObject.unexportObject(server, true);
      UnicastRemoteObject.unexportObject(connection, true);
    }
  }
}
