package jamjar.server;

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
    application().run(args);
  }
}
