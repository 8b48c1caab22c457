package jamjar.server;

import jamjar.core.failure.Causes;
import jamjar.server.security.CannotStart;
import jamjar.server.security.Listening;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;
import org.springframework.scheduling.annotation.EnableScheduling;

/** Starts the server. */
// accounts lie in the store
@SpringBootApplication(exclude = UserDetailsServiceAutoConfiguration.class)
@ConfigurationPropertiesScan
@EnableScheduling
public class JamJarServer {

  /** The server, to be run with its options. */
  public static SpringApplication application() {
    SpringApplication application = new SpringApplication(JamJarServer.class);
    application.addInitializers(context -> Listening.prepare(context.getEnvironment()));
    return application;
  }

  public static void main(String[] args) {
    CopyCommand.run(args).ifPresent(System::exit);
    try {
      application().run(args);
    } catch (RuntimeException e) {
      CannotStart why = Causes.of(e, CannotStart.class).orElseThrow(() -> e);
      System.out.println("jamjar: " + why.getMessage());
      System.exit(CannotStart.STATUS);
    }
  }
}
