package jamjar.e2e;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import java.util.Set;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ExtensionContext.Namespace;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;
import org.junit.jupiter.api.parallel.ResourceLock;
import org.junit.jupiter.api.parallel.ResourceLocksProvider;

/**
 * Runs a class on an engine, a server and a browser that it shares with other such classes, one
 * class after the other; each finds it without instances, limits of its own and markers.
 */
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
@ExtendWith(SharedSite.Sharing.class)
@ResourceLock(providers = SharedSite.Sharing.class)
@interface SharedSite {
  /** There are two, lest one half of the classes wait for the other: whether it is the second. */
  boolean second() default false;

  /** Starts it when it is first wanted, ends it after the last class. */
  final class Sharing
      implements BeforeAllCallback, AfterEachCallback, ParameterResolver, ResourceLocksProvider {
    private static String name(Class<?> type) {
      return type.getAnnotation(SharedSite.class).second() ? "second site" : "first site";
    }

    private static Site site(ExtensionContext context) {
      return context
          .getRoot()
          .getStore(Namespace.create(SharedSite.class))
          .computeIfAbsent(name(context.getRequiredTestClass()), key -> Site.start(), Site.class);
    }

    @Override
    public Set<Lock> provideForClass(Class<?> type) {
      return Set.of(new Lock(name(type)));
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
