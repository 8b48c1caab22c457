package jamjar.e2e;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ExtensionContext.Namespace;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;
import org.junit.jupiter.api.parallel.ResourceLock;

/**
 * Runs a class on the one engine, server and browser that all such classes share, one class after
 * the other; each finds it without instances, limits of its own and markers.
 */
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
@ExtendWith(SharedSite.Sharing.class)
@ResourceLock("site")
@interface SharedSite {

  /** Starts it when it is first wanted, ends it after the last class. */
  final class Sharing implements BeforeAllCallback, AfterEachCallback, ParameterResolver {
    private static Site site(ExtensionContext context) {
      return context
          .getRoot()
          .getStore(Namespace.create(SharedSite.class))
          .computeIfAbsent("site", key -> Site.start(), Site.class);
    }

    @Override
    public void beforeAll(ExtensionContext context) throws Exception {
      site(context).clear();
    }

    @Override
    public void afterEach(ExtensionContext context) {
      site(context).closePages();
    }

    @Override
    public boolean supportsParameter(ParameterContext parameter, ExtensionContext context) {
      return parameter.getParameter().getType() == Site.class;
    }

    @Override
    public Object resolveParameter(ParameterContext parameter, ExtensionContext context) {
      return site(context);
    }
  }
}
