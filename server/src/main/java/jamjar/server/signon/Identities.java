package jamjar.server.signon;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.security.oauth2.client.oidc.authentication.OidcIdTokenValidator;
import org.springframework.security.oauth2.client.registration.ClientRegistration;
import org.springframework.security.oauth2.core.DelegatingOAuth2TokenValidator;
import org.springframework.security.oauth2.jose.jws.SignatureAlgorithm;
import org.springframework.security.oauth2.jwt.JwtDecoder;
import org.springframework.security.oauth2.jwt.JwtDecoderFactory;
import org.springframework.security.oauth2.jwt.JwtTimestampValidator;
import org.springframework.security.oauth2.jwt.NimbusJwtDecoder;
import org.springframework.web.client.RestOperations;

/**
 * Reads who somebody is from what was signed there (OpenID Connect Core 1.0, 3.1.3.7), by the keys
 * that it publishes: RSA or elliptic curves, never a secret both know, and never none.
 */
final class Identities implements JwtDecoderFactory<ClientRegistration> {
  private final RestOperations asks;
  private final Map<String, JwtDecoder> known = new ConcurrentHashMap<>();

  Identities(RestOperations asks) {
    this.asks = asks;
  }

  @Override
  public JwtDecoder createDecoder(ClientRegistration of) {
    // its keys are kept until one is not known
    return known.computeIfAbsent(of.getProviderDetails().getJwkSetUri(), uri -> decoder(uri, of));
  }

  private JwtDecoder decoder(String uri, ClientRegistration of) {
    NimbusJwtDecoder decoder =
        NimbusJwtDecoder.withJwkSetUri(uri)
            .restOperations(asks)
            .jwsAlgorithms(
                all -> {
                  all.add(SignatureAlgorithm.RS256);
                  all.add(SignatureAlgorithm.RS384);
                  all.add(SignatureAlgorithm.RS512);
                  all.add(SignatureAlgorithm.PS256);
                  all.add(SignatureAlgorithm.ES256);
                  all.add(SignatureAlgorithm.ES384);
                })
            .build();
    decoder.setJwtValidator(
        new DelegatingOAuth2TokenValidator<>(
            new JwtTimestampValidator(), new OidcIdTokenValidator(of)));
    return decoder;
  }
}
