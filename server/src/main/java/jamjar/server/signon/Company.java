package jamjar.server.signon;

import jamjar.server.security.SignOn;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.ParameterizedTypeReference;
import org.springframework.security.oauth2.client.registration.ClientRegistration;
import org.springframework.security.oauth2.client.registration.ClientRegistrationRepository;
import org.springframework.security.oauth2.client.registration.ClientRegistrations;
import org.springframework.web.client.RestClient;

/**
 * Who says who somebody is, as it describes itself (OpenID Connect Discovery 1.0). It is asked when
 * somebody is to be known by it, not when the server starts: it may be away then.
 */
final class Company implements ClientRegistrationRepository {
  /** The one there is. */
  static final String ID = "company";

  /** Where it sends back to. */
  static final String BACK = "/signed-on";

  private static final Logger LOG = LoggerFactory.getLogger(Company.class);
  private static final String DESCRIPTION = "/.well-known/openid-configuration";
  private static final Duration REMEMBERED = Duration.ofHours(1);

  /** So long it is not asked again that did not answer. */
  private static final Duration LEFT_ALONE = Duration.ofSeconds(5);

  private final SignOn signOn;
  private final RestClient asks;
  private final Clock clock;
  private ClientRegistration known;
  private Instant askedAgain = Instant.MIN;

  Company(SignOn signOn, RestClient asks, Clock clock) {
    this.signOn = signOn;
    this.asks = asks;
    this.clock = clock;
  }

  /** Null where it does not answer, or not as it should. */
  @Override
  public synchronized ClientRegistration findByRegistrationId(String id) {
    if (!ID.equals(id)) {
      return null;
    }
    Instant now = clock.instant();
    if (now.isAfter(askedAgain)) {
      try {
        known = described();
        askedAgain = now.plus(REMEMBERED);
      } catch (RuntimeException e) {
        // whatever it says of itself, and whether or not the secret can be read
        askedAgain = clock.instant().plus(LEFT_ALONE);
        LOG.warn(
            "event=sign-on-not-described issuer={} why=\"{}\"",
            signOn.issuer(),
            String.valueOf(e.getMessage()).replace('"', '\''));
      }
    }
    // how it was described last, while it does not answer
    return known;
  }

  private ClientRegistration described() {
    Map<String, Object> told =
        asks.get()
            .uri(signOn.issuer().replaceFirst("/$", "") + DESCRIPTION)
            .retrieve()
            .body(new ParameterizedTypeReference<>() {});
    if (told == null || !signOn.issuer().equals(told.get("issuer"))) {
      throw new IllegalStateException("its description is of another issuer");
    }
    return ClientRegistrations.fromOidcConfiguration(told)
        .registrationId(ID)
        .clientId(signOn.client())
        .clientSecret(signOn.secretText())
        .clientName(signOn.name())
        .scope("openid", "profile")
        .redirectUri("{baseUrl}" + BACK)
        .build();
  }
}
