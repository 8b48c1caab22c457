package jamjar.collect.jmx;

import java.io.IOException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.management.remote.rmi.RMIServer;

/** Where the registry of a JVM says that its managed beans are. */
record HandedOn(String host, int port) {
  // the JDK gives the address of a remote object only in its text
  private static final Pattern ENDPOINT = Pattern.compile("endpoint:\\[(.+?):(\\d+)[,\\]]");

  static HandedOn by(RMIServer server) throws IOException {
    Matcher matcher = ENDPOINT.matcher(server.toString());
    if (!matcher.find()) {
      throw new IOException("the registry does not tell where it hands on to");
    }
    return new HandedOn(matcher.group(1), Integer.parseInt(matcher.group(2)));
  }

  String address() {
    return host + ":" + port;
  }
}
