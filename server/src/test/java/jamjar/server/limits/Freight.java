package jamjar.server.limits;

import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.watching.Watching.Span;
import jamjar.store.instances.InstanceRow;
import java.time.Instant;

/** An instance that is judged by the shipped recipe of the stand-ins, from a morning on. */
final class Freight {
  static final LoadedRecipe RECIPE = RecipeFile.shipped("stand-in");
  static final long FROM = Instant.parse("2026-11-25T09:00:00Z").toEpochMilli();
  static final Span SPAN = new Span(1, FROM, 0);

  private Freight() {}

  static InstanceRow instance() {
    return new InstanceRow(
        0,
        "freight-1",
        "appserver",
        "",
        "",
        "",
        new String[0],
        "127.0.0.1",
        1,
        "",
        "off",
        "",
        "",
        new byte[] {1},
        "stand-in",
        10,
        "Europe/Oslo",
        Instant.ofEpochMilli(FROM),
        null,
        false,
        new String[0]);
  }
}
