package jamjar.server.instances;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import jamjar.collect.Collector;
import jamjar.core.group.Leads;
import jamjar.core.group.Leads.Lead;
import jamjar.core.group.Leads.Place;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import jamjar.store.facts.FactRow;
import jamjar.store.instances.InstanceRow;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Links between instances that were found by addresses, for a person to confirm. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class FoundLinks {
  private final Store store;
  private final Scopes scopes;
  private final InstanceService instances;

  FoundLinks(Store store, Scopes scopes, InstanceService instances) {
    this.store = store;
    this.scopes = scopes;
    this.instances = instances;
  }

  /**
   * A link that nobody has confirmed.
   *
   * @param instance whose address leads there
   * @param through the pool that tells the address; empty where start arguments or properties do
   * @param to the name of who is led to
   * @param address host and port as told
   * @param use the same as it is written among what an instance uses
   */
  record FoundLink(int instance, String through, String to, String address, String use) {
    static FoundLink of(int instance, Lead lead) {
      String to = lead.to().name();
      String use = lead.through().isEmpty() ? to : lead.through() + "=" + to;
      return new FoundLink(instance, lead.through(), to, lead.address(), use);
    }
  }

  /** Those of all instances. */
  @GetMapping("/links/found")
  List<FoundLink> found() {
    List<InstanceRow> all = scopes.instances();
    List<Place> places =
        all.stream().map(FoundLinks::place).filter(place -> !place.host().isEmpty()).toList();
    Map<Integer, List<FactRow>> told =
        store.facts().addresses().stream().collect(Collectors.groupingBy(FactRow::instance));
    return all.stream()
        .flatMap(row -> of(row, told.getOrDefault(row.id(), List.of()), places))
        .toList();
  }

  /** A link that somebody confirms. */
  record Use(@NotBlank @Size(max = 160) String use) {}

  @PostMapping("/instances/{id}/uses")
  InstanceView confirm(@PathVariable int id, @Valid @RequestBody Use confirmed) {
    return instances.uses(id, confirmed.use());
  }

  private static Place place(InstanceRow row) {
    return new Place(row.id(), row.name(), row.host(), row.port());
  }

  /** Pools tell more exactly than arguments do: what they lead to is not told twice. */
  private static Stream<FoundLink> of(InstanceRow row, List<FactRow> told, List<Place> places) {
    Map<String, String> by = new HashMap<>();
    for (FactRow fact : told) {
      boolean ofPool = fact.name().startsWith(Collector.LEADS_TO);
      String through = ofPool ? fact.name().substring(Collector.LEADS_TO.length()) : "";
      by.merge(through, fact.value(), (a, b) -> a + " " + b);
    }
    List<Lead> leads = Leads.of(place(row), by, places);
    return leads.stream()
        .filter(
            lead ->
                !lead.through().isEmpty()
                    || leads.stream()
                        .noneMatch(
                            other -> !other.through().isEmpty() && other.to().equals(lead.to())))
        .map(lead -> FoundLink.of(row.id(), lead))
        .filter(link -> Arrays.stream(row.uses()).noneMatch(use -> isKnown(use, link)));
  }

  private static boolean isKnown(String use, FoundLink link) {
    return use.equals(link.use())
        || use.equals(link.to())
        || link.through().isEmpty() && use.endsWith("=" + link.to());
  }
}
