package jamjar.standins.servers;

import java.util.ArrayList;
import java.util.List;

/** The application servers and JVMs of Skerry Line: all names and figures are invented. */
public final class Skerry {
  /** The two sites share the load about 55 : 45. */
  private static final double NORTHQUAY = 1.1;

  private static final double SOUTHMOLE = 0.9;

  private Skerry() {}

  public static List<Profile> servers() {
    List<Profile> all = new ArrayList<>();
    for (int i = 1; i <= 6; i++) {
      all.add(booking(i, i <= 3));
    }
    for (int i = 1; i <= 4; i++) {
      all.add(gate(i, i <= 2));
    }
    all.add(fares(1, true));
    all.add(fares(2, false));
    for (int i = 1; i <= 3; i++) {
      all.add(freight(i, i <= 2));
    }
    all.add(jvm("timetable-1", "timetable", true, 18, 0.32));
    all.add(jvm("timetable-2", "timetable", false, 15, 0.34));
    all.add(jvm("weather-1", "weather", false, 4, 0.58));
    return all;
  }

  /** How many of a group there should be at a site. */
  public record Expected(String group, String site, int count) {}

  public static List<Expected> expected() {
    return List.of(
        new Expected("booking", "Northquay", 3),
        new Expected("booking", "Southmole", 3),
        new Expected("gates", "Northquay", 2),
        new Expected("gates", "Southmole", 2),
        new Expected("fares", "Northquay", 1),
        new Expected("fares", "Southmole", 1),
        new Expected("freight", "Northquay", 2),
        new Expected("freight", "Southmole", 1),
        new Expected("timetable", "Northquay", 1),
        new Expected("timetable", "Southmole", 1),
        new Expected("weather", "Southmole", 1),
        new Expected("booking-db", "Northquay", 1),
        new Expected("booking-db", "Southmole", 1),
        new Expected("freight-db", "Southmole", 1));
  }

  /** Those whose first pool asks for berths at booking-db-a. */
  public static List<String> bookingServers() {
    return servers().stream()
        .filter(one -> one.group().equals("booking"))
        .map(Profile::name)
        .toList();
  }

  /** Who works with Jam Jar there, how far each may go, and of what; of nothing named, of all. */
  public record Person(String name, String role, List<String> scope) {}

  public static List<Person> people() {
    return List.of(
        new Person("ragna", "administer", List.of()),
        new Person("sunniva", "shape", List.of()),
        new Person("eskil", "act", List.of()),
        new Person("wharf screen", "look", List.of("site:Southmole")));
  }

  private static String site(boolean north) {
    return north ? "Northquay" : "Southmole";
  }

  private static double rate(double rate, boolean north) {
    return rate * (north ? NORTHQUAY : SOUTHMOLE);
  }

  private static Profile booking(int number, boolean north) {
    return new Profile(
        "booking-" + number,
        "booking",
        site(north),
        rate(24, north),
        Rhythm::booking,
        60,
        0.44 + 0.01 * number,
        List.of("booking", "refund"),
        List.of(
            new Profile.Step("booking", "quote fare", 0.9, 35),
            new Profile.Step("booking", "hold berth", 0.35, 120),
            new Profile.Step("booking", "pay", 0.2, 340),
            new Profile.Step("booking", "check in vehicle", 0.15, 90),
            new Profile.Step("refund", "refund", 0.01, 260)),
        List.of(
            new Profile.Pool("bookingPool", "booking-db-a", 20, 1.4, 45),
            new Profile.Pool("loyaltyPool", "booking-db-a", 8, 0.3, 18)),
        List.of(new Profile.Queue("refund.out", 0.25, 3, 1)));
  }

  private static Profile gate(int number, boolean north) {
    return new Profile(
        "gate-" + number,
        "gates",
        site(north),
        rate(9, north),
        Rhythm::gates,
        30,
        0.28,
        List.of("gate"),
        List.of(new Profile.Step("gate", "scan at gate", 1, 28)),
        List.of(new Profile.Pool("bookingPool", "booking-db-a", 10, 1, 14)),
        List.of(new Profile.Queue("gate.scan", 6, 30, 2)));
  }

  private static Profile fares(int number, boolean north) {
    return new Profile(
        "fares-" + number,
        "fares",
        site(north),
        rate(60, north),
        Rhythm::booking,
        40,
        0.51,
        List.of("fares"),
        List.of(
            new Profile.Step("fares", "quote fare", 0.95, 22),
            new Profile.Step("fares", "reload fares", 0.0005, 4000)),
        List.of(new Profile.Pool("farePool", "booking-db-a", 16, 0.8, 11)),
        List.of());
  }

  private static Profile freight(int number, boolean north) {
    return new Profile(
        "freight-" + number,
        "freight",
        site(north),
        rate(6, north),
        Rhythm::booking,
        24,
        0.55 + 0.03 * number,
        List.of("freight"),
        List.of(
            new Profile.Step("freight", "file manifest", 0.7, 210),
            new Profile.Step("freight", "clear customs", 0.3, 480)),
        List.of(new Profile.Pool("manifestPool", "freight-db", 12, 1.6, 60)),
        List.of(
            new Profile.Queue("manifest.in", 4, 14, 3),
            new Profile.Queue("manifest.customs", 1.5, 6, 2)));
  }

  private static Profile jvm(
      String name, String group, boolean north, double perSecond, double floor) {
    return new Profile(
        name,
        group,
        site(north),
        perSecond,
        Rhythm::booking,
        24,
        floor,
        List.of(),
        List.of(new Profile.Step(name, "answer", 1, 40)),
        List.of(),
        List.of());
  }
}
