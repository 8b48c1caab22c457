package jamjar.standins.company;

import jakarta.servlet.FilterRegistration;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArraySet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apache.catalina.Context;
import org.apache.catalina.LifecycleException;
import org.apache.catalina.startup.Tomcat;
import org.springframework.context.annotation.AnnotatedBeanDefinitionReader;
import org.springframework.web.context.support.GenericWebApplicationContext;
import org.springframework.web.filter.DelegatingFilterProxy;
import org.springframework.web.servlet.DispatcherServlet;

/**
 * The company's own sign-on: a real authorization server that speaks OpenID Connect, on loopback,
 * with people who are made up. Its keys are made at each start.
 */
public final class CompanySignOn implements AutoCloseable {
  private final Tomcat tomcat = new Tomcat();
  private final Path folder;
  private final Set<String> sendsBackTo = new CopyOnWriteArraySet<>();

  /**
   * Somebody who works there.
   *
   * @param groups as told to who asks who they are
   */
  public record Person(String name, String password, List<String> groups) {
    @Override
    public String toString() {
      return name;
    }
  }

  /**
   * @param port 0 for any that is free
   * @param client who may ask, by that name
   * @param secret by which it is known
   */
  public CompanySignOn(int port, String client, String secret, List<Person> people)
      throws IOException, LifecycleException {
    folder = Files.createTempDirectory("company");
    tomcat.setBaseDir(folder.toString());
    tomcat.setPort(port);
    tomcat.getConnector().setProperty("address", "127.0.0.1");
    GenericWebApplicationContext beans = new GenericWebApplicationContext();
    beans.registerBean(People.class, () -> new People(people));
    beans.registerBean(Clients.class, () -> new Clients(client, secret, sendsBackTo));
    new AnnotatedBeanDefinitionReader(beans).register(CompanyConfiguration.class);
    Context context = tomcat.addContext("", null);
    // however this was loaded: as a program the jars lie in one
    context.setParentClassLoader(CompanySignOn.class.getClassLoader());
    beans.setClassLoader(CompanySignOn.class.getClassLoader());
    context.addServletContainerInitializer(
        (classes, servlets) -> {
          beans.setServletContext(servlets);
          beans.refresh();
          FilterRegistration.Dynamic filter =
              servlets.addFilter(
                  "security", new DelegatingFilterProxy("springSecurityFilterChain", beans));
          filter.addMappingForUrlPatterns(null, false, "/*");
          servlets.addServlet("pages", new DispatcherServlet(beans)).addMapping("/");
        },
        null);
    tomcat.start();
  }

  /** Its address, as those who ask it name it. */
  public String issuer() {
    return "http://127.0.0.1:" + tomcat.getConnector().getLocalPort();
  }

  /** To these addresses, and to no others, it sends back who is known. */
  public void sendsBackTo(String address) {
    sendsBackTo.add(address);
  }

  /** What is told of somebody besides who it is. */
  record People(Map<String, Person> all) {
    People(List<Person> people) {
      this(people.stream().collect(Collectors.toMap(Person::name, p -> p)));
    }
  }

  @Override
  public void close() throws Exception {
    tomcat.stop();
    tomcat.destroy();
    try (Stream<Path> left = Files.walk(folder)) {
      for (Path path : left.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }
}
