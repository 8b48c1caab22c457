package jamjar.core.group;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.group.Leads.Lead;
import jamjar.core.group.Leads.Place;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class LeadsTest {
  private static final Place NODE = new Place(1, "booking-1", "node-1.quay.invalid", 9010);
  private static final Place WRITER = new Place(2, "booking-db-a", "db-a.quay.invalid", 5432);
  private static final Place READER = new Place(3, "booking-db-b", "db-b.quay.invalid", 5433);
  private static final Place BESIDE = new Place(4, "fares-db", "NODE-1.quay.invalid.", 5432);
  private static final Place HERE = new Place(5, "freight-db", "127.0.0.1", 5444);
  private static final List<Place> ALL = List.of(NODE, WRITER, READER, BESIDE, HERE);

  private static List<String> led(Place from, String text) {
    return Leads.of(from, Map.of("pool", text), ALL).stream()
        .map(lead -> lead.to().name() + " " + lead.address())
        .toList();
  }

  @Test
  void an_address_leads_to_who_is_watched_at_its_host_and_port() {
    assertThat(led(NODE, "jdbc:postgresql://db-b.quay.invalid:5433/booking?ssl=true"))
        .containsExactly("booking-db-b db-b.quay.invalid:5433");
    // without a port that of the engine is meant
    assertThat(led(NODE, "jdbc:postgresql://DB-A.quay.invalid/booking"))
        .containsExactly("booking-db-a DB-A.quay.invalid:5432");
    assertThat(led(NODE, "jdbc:postgresql://db-a.quay.invalid:5433/booking")).isEmpty();
    assertThat(led(NODE, "jdbc:other://db-a.quay.invalid/booking")).isEmpty();
  }

  @Test
  void several_hosts_and_users_are_taken_apart_and_each_place_is_told_once() {
    assertThat(
            led(
                NODE,
                "-Da=jdbc:postgresql://db-a.quay.invalid,db-b.quay.invalid:5433/x"
                    + " -Db=jdbc:postgresql://app@db-a.quay.invalid:5432/y"))
        .containsExactly(
            "booking-db-a db-a.quay.invalid:5432", "booking-db-b db-b.quay.invalid:5433");
  }

  @Test
  void its_own_machine_is_where_it_runs_and_not_where_jam_jar_does() {
    assertThat(led(NODE, "jdbc:postgresql://localhost/fares"))
        .containsExactly("fares-db localhost:5432");
    Place here = new Place(9, "tools", "localhost", 9011);
    assertThat(led(here, "jdbc:postgresql://[::1]:5444/freight"))
        .containsExactly("freight-db [::1]:5444");
    assertThat(led(NODE, "jdbc:postgresql://127.0.0.1:5444/freight")).isEmpty();
  }

  @Test
  void of_a_text_that_never_ends_some_addresses_are_looked_at() {
    String many = "jdbc:postgresql://other.invalid:1/x ".repeat(50);
    assertThat(led(NODE, many + "jdbc:postgresql://db-a.quay.invalid/x")).isEmpty();
    assertThat(led(NODE, "//".repeat(20_000))).isEmpty();
  }

  @Test
  void what_is_no_address_or_leads_to_itself_leads_nowhere() {
    assertThat(led(NODE, "-Xmx1g //not an address// http://")).isEmpty();
    assertThat(led(WRITER, "jdbc:postgresql://localhost:5432/booking")).isEmpty();
    List<Lead> none = Leads.of(NODE, Map.of(), ALL);
    assertThat(none).isEmpty();
  }
}
