package jamjar.collect.jmx;

import jamjar.collect.CollectFailed;
import jamjar.collect.Target;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.rmi.registry.LocateRegistry;
import java.util.HashMap;
import java.util.Map;
import javax.management.remote.JMXConnector;
import javax.management.remote.JMXConnectorFactory;
import javax.management.remote.JMXServiceURL;
import javax.management.remote.rmi.RMIConnector;
import javax.management.remote.rmi.RMIServer;
import javax.rmi.ssl.SslRMIClientSocketFactory;

/** Opens connections to the managed-bean server of a JVM. */
final class JmxConnector {
  private JmxConnector() {}

  static {
    Sockets.prepare();
  }

  /** Signs in at a host and port, or attaches to a process of this machine where one is named. */
  static JMXConnector open(Target target) throws CollectFailed {
    try (TlsOfTarget about = TlsOfTarget.of(target)) {
      if (target.port() == 0) {
        return connected(JMXConnectorFactory.newJMXConnector(local(target), environment(target)));
      }
      reach(new InetSocketAddress(target.host(), target.port()));
      return connected(new RMIConnector(server(target), environment(target)));
    } catch (CollectFailed e) {
      throw e;
    } catch (Exception e) {
      throw new CollectFailed(JmxRefusals.of(target, e), e);
    }
  }

  private static JMXConnector connected(JMXConnector connector) throws IOException {
    connector.connect();
    return connector;
  }

  /** Gives a connection up; nothing happens where there is none. */
  static void close(JMXConnector connector) {
    try {
      if (connector != null) {
        connector.close();
      }
    } catch (IOException e) {
      // it is given up either way
    }
  }

  private static JMXServiceURL local(Target target) throws Exception {
    return new JMXServiceURL(LocalJvms.address(target.database()));
  }

  /** A short try before the long way, so that a port where nobody accepts is told in time. */
  static void reach(InetSocketAddress address) throws IOException {
    Sockets.connected(address).close();
  }

  /** What answers at the port, to be asked for a connection. */
  static RMIServer server(Target target) throws Exception {
    boolean encrypted = target.tls() != Target.Tls.OFF;
    var registry =
        encrypted
            ? LocateRegistry.getRegistry(
                target.host(), target.port(), new SslRMIClientSocketFactory())
            : LocateRegistry.getRegistry(target.host(), target.port());
    return (RMIServer) registry.lookup("jmxrmi");
  }

  private static Map<String, Object> environment(Target target) {
    Map<String, Object> environment = new HashMap<>();
    // the readings themselves tell whether it is there
    environment.put("jmx.remote.x.client.connection.check.period", 0L);
    if (!target.user().isEmpty()) {
      environment.put(JMXConnector.CREDENTIALS, new String[] {target.user(), target.password()});
    }
    return environment;
  }
}
