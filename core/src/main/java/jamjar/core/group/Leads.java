package jamjar.core.group;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * To which of the watched the addresses lead that one of them tells, such as that of a connection
 * pool's database.
 */
public final class Leads {
  /** The hosts of an address; what it says of users is passed over. Its length is bounded. */
  private static final Pattern ADDRESS =
      Pattern.compile(
          "(?:jdbc:([a-z]{1,40}):[\\w:]{0,40})?//(?:[^/@\\s]{1,200}@)?([^/;?\\s\"']{1,400})");

  private static final Pattern HOST =
      Pattern.compile("(\\[[0-9a-fA-F:.%]+\\]|[\\w.-]+)(?::(\\d{1,5}))?");

  /** So many addresses of one text are looked at: it is told by a target. */
  private static final int MOST = 50;

  private static final Set<String> LOOPBACK = Set.of("localhost", "127.0.0.1", "[::1]");
  private static final Map<String, Integer> USUAL_PORT = Map.of("postgresql", 5432);

  private Leads() {}

  /**
   * One that is watched.
   *
   * @param host as it is read at
   */
  public record Place(int id, String name, String host, int port) {}

  /**
   * An address that leads to one that is watched.
   *
   * @param through what tells it, such as the name of a pool; empty for the whole instance
   * @param address host and port as told
   */
  public record Lead(String through, Place to, String address) {}

  /**
   * What leads where, in the order of what tells it; each place once for each.
   *
   * @param from who tells it: an address of its own machine is meant from there
   * @param told addresses, or texts that hold some, by what tells them
   */
  public static List<Lead> of(Place from, Map<String, String> told, List<Place> all) {
    List<Lead> leads = new ArrayList<>();
    new TreeMap<>(told)
        .forEach(
            (through, text) -> {
              Matcher address = ADDRESS.matcher(text);
              for (int n = 0; n < MOST && address.find(); n++) {
                Integer usual = address.group(1) == null ? null : USUAL_PORT.get(address.group(1));
                for (String one : address.group(2).split(",")) {
                  Matcher host = HOST.matcher(one);
                  if (host.matches() && (host.group(2) != null || usual != null)) {
                    int port = host.group(2) == null ? usual : Integer.parseInt(host.group(2));
                    String at = seenFrom(from, host.group(1));
                    all.stream()
                        .filter(place -> place.id() != from.id())
                        .filter(place -> place.port() == port && same(at, place.host()))
                        .map(place -> new Lead(through, place, host.group(1) + ":" + port))
                        .filter(lead -> leads.stream().noneMatch(l -> isSame(l, lead)))
                        .forEach(leads::add);
                  }
                }
              }
            });
    return leads;
  }

  private static boolean isSame(Lead a, Lead b) {
    return a.through().equals(b.through()) && a.to().equals(b.to());
  }

  private static String seenFrom(Place from, String host) {
    return isLoopback(host) ? from.host() : host;
  }

  private static boolean same(String a, String b) {
    return isLoopback(a) && isLoopback(b) || bare(a).equals(bare(b));
  }

  private static boolean isLoopback(String host) {
    return LOOPBACK.contains(host.toLowerCase(Locale.ROOT)) || host.equals("::1");
  }

  private static String bare(String host) {
    return host.replaceAll("[\\[\\]]", "").replaceFirst("\\.$", "").toLowerCase(Locale.ROOT);
  }
}
