package jamjar.e2e;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.ReducedMotion;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/** Whether everybody can use what a page shows, by the rules of axe-core, in both themes. */
final class Axe {
  private static final String RULES = source();

  private static final String RUN =
      """
      async () => {
        const found = await axe.run(document, { resultTypes: ['violations'] })
        return found.violations.flatMap((rule) => rule.nodes.map((node) =>
          `${rule.id}: ${node.target.join(' ')} (${node.any.concat(node.all, node.none)
            .map((check) => check.message).join('; ')})`))
      }
      """;

  private Axe() {}

  private static String source() {
    try (InputStream in = Axe.class.getResourceAsStream("/axe.min.js")) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** What it finds, each with where; the page is as it was afterwards. */
  static List<String> findings(Page page) {
    page.evaluate(RULES);
    List<String> all = new ArrayList<>();
    for (ColorScheme theme : List.of(ColorScheme.LIGHT, ColorScheme.DARK)) {
      // a colour on its way from one theme to the other is of neither
      page.emulateMedia(
          new Page.EmulateMediaOptions()
              .setColorScheme(theme)
              .setReducedMotion(ReducedMotion.REDUCE));
      String name = theme.name().toLowerCase(java.util.Locale.ROOT);
      page.waitForFunction("name => document.documentElement.dataset.theme === name", name);
      for (Object found : (List<?>) page.evaluate(RUN)) {
        all.add(name + " " + found);
      }
    }
    page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.LIGHT));
    return all;
  }
}
