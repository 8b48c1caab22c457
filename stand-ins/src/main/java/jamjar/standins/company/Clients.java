package jamjar.standins.company;

import java.util.Set;
import org.springframework.security.oauth2.core.AuthorizationGrantType;
import org.springframework.security.oauth2.core.ClientAuthenticationMethod;
import org.springframework.security.oauth2.core.oidc.OidcScopes;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClient;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClientRepository;
import org.springframework.security.oauth2.server.authorization.settings.ClientSettings;

/** Who may ask: one, from addresses that may be added while it runs. */
final class Clients implements RegisteredClientRepository {
  private final String client;
  private volatile String secret;
  private final Set<String> sendsBackTo;

  Clients(String client, String secret, Set<String> sendsBackTo) {
    this.client = client;
    this.secret = "{noop}" + secret;
    this.sendsBackTo = sendsBackTo;
  }

  /** Its secret is kept in a better way than as it was told. */
  @Override
  public void save(RegisteredClient known) {
    secret = known.getClientSecret();
  }

  @Override
  public RegisteredClient findById(String id) {
    return findByClientId(id);
  }

  @Override
  public RegisteredClient findByClientId(String id) {
    return client.equals(id) && !sendsBackTo.isEmpty() ? known() : null;
  }

  private RegisteredClient known() {
    return RegisteredClient.withId(client)
        .clientId(client)
        .clientSecret(secret)
        .clientAuthenticationMethod(ClientAuthenticationMethod.CLIENT_SECRET_BASIC)
        .authorizationGrantType(AuthorizationGrantType.AUTHORIZATION_CODE)
        .redirectUris(uris -> uris.addAll(sendsBackTo))
        .scope(OidcScopes.OPENID)
        .scope(OidcScopes.PROFILE)
        .clientSettings(ClientSettings.builder().requireProofKey(true).build())
        .build();
  }
}
