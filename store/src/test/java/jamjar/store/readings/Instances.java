package jamjar.store.readings;

import jamjar.store.instances.InstanceRow;
import java.time.Instant;

/** Instances to store readings of. */
public final class Instances {
  private Instances() {}

  public static InstanceRow named(String name) {
    return new InstanceRow(
        0,
        name,
        "postgresql",
        "",
        "",
        "",
        new String[] {"a tag"},
        "127.0.0.1",
        5432,
        "postgres",
        "off",
        "",
        "reader",
        new byte[] {1},
        "postgresql",
        10,
        "Europe/Oslo",
        Instant.parse("2026-11-24T00:00:00Z"),
        null,
        false,
        new String[0]);
  }
}
