package jamjar.server;

import jamjar.server.security.Loopback;
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

  public static void main(String[] args) {
    CopyCommand.run(args).ifPresent(System::exit);
    SpringApplication application = new SpringApplication(JamJarServer.class);
    application.addInitializers(context -> Loopback.require(context.getEnvironment()));
    application.run(args);
  }
}
