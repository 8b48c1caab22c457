package jamjar.server.signon;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.time.Duration;
import org.springframework.security.oauth2.client.web.AuthorizationRequestRepository;
import org.springframework.security.oauth2.client.web.HttpSessionOAuth2AuthorizationRequestRepository;
import org.springframework.security.oauth2.core.endpoint.OAuth2AuthorizationRequest;

/** Who went to sign on and is not back yet: strangers, whose sessions are soon forgotten. */
final class OnTheirWay implements AuthorizationRequestRepository<OAuth2AuthorizationRequest> {
  private static final Duration LONGEST = Duration.ofMinutes(10);

  private final HttpSessionOAuth2AuthorizationRequestRepository kept =
      new HttpSessionOAuth2AuthorizationRequestRepository();

  @Override
  public OAuth2AuthorizationRequest loadAuthorizationRequest(HttpServletRequest request) {
    return kept.loadAuthorizationRequest(request);
  }

  @Override
  public void saveAuthorizationRequest(
      OAuth2AuthorizationRequest asked, HttpServletRequest request, HttpServletResponse response) {
    boolean stranger = request.getSession(false) == null;
    kept.saveAuthorizationRequest(asked, request, response);
    HttpSession session = request.getSession(false);
    if (stranger && session != null) {
      session.setMaxInactiveInterval((int) LONGEST.toSeconds());
    }
  }

  @Override
  public OAuth2AuthorizationRequest removeAuthorizationRequest(
      HttpServletRequest request, HttpServletResponse response) {
    return kept.removeAuthorizationRequest(request, response);
  }
}
