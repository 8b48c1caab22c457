package jamjar.server.signon;

import java.net.http.HttpClient;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.client.ClientHttpRequestFactory;
import org.springframework.http.client.JdkClientHttpRequestFactory;
import org.springframework.security.oauth2.client.registration.ClientRegistration;
import org.springframework.security.oauth2.jwt.JwtDecoderFactory;
import org.springframework.web.client.RestTemplate;

/** How who lets in from elsewhere is asked: not for long, and no redirection is followed. */
@Configuration
class SignOnConfiguration {
  private static final Duration PATIENCE = Duration.ofSeconds(5);

  @Bean
  ClientHttpRequestFactory patient() {
    JdkClientHttpRequestFactory patient =
        new JdkClientHttpRequestFactory(HttpClient.newBuilder().connectTimeout(PATIENCE).build());
    patient.setReadTimeout(PATIENCE);
    return patient;
  }

  @Bean
  JwtDecoderFactory<ClientRegistration> identities(ClientHttpRequestFactory patient) {
    return new Identities(new RestTemplate(patient));
  }
}
