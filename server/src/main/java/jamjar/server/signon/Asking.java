package jamjar.server.signon;

import jakarta.servlet.http.HttpServletRequest;
import jamjar.server.security.SignOn;
import org.springframework.security.oauth2.client.web.DefaultOAuth2AuthorizationRequestResolver;
import org.springframework.security.oauth2.client.web.OAuth2AuthorizationRequestCustomizers;
import org.springframework.security.oauth2.client.web.OAuth2AuthorizationRequestResolver;
import org.springframework.security.oauth2.core.endpoint.OAuth2AuthorizationRequest;

/** With what one is sent there; where that can't be said, {@link NotAsked} answers. */
final class Asking implements OAuth2AuthorizationRequestResolver {
  private final Company company;
  private final DefaultOAuth2AuthorizationRequestResolver requests;

  Asking(Company company) {
    this.company = company;
    requests = new DefaultOAuth2AuthorizationRequestResolver(company, SignOn.PATH);
    requests.setAuthorizationRequestCustomizer(OAuth2AuthorizationRequestCustomizers.withPkce());
  }

  @Override
  public OAuth2AuthorizationRequest resolve(HttpServletRequest request) {
    boolean asked = request.getRequestURI().equals(SignOn.PATH + "/" + Company.ID);
    return asked && company.findByRegistrationId(Company.ID) != null
        ? requests.resolve(request)
        : null;
  }

  @Override
  public OAuth2AuthorizationRequest resolve(HttpServletRequest request, String id) {
    return Company.ID.equals(id) ? resolve(request) : null;
  }
}
