package jamjar.server.signon;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import org.springframework.security.oauth2.client.web.AuthorizationRequestRepository;
import org.springframework.security.oauth2.core.endpoint.OAuth2AuthorizationRequest;
import tools.jackson.databind.json.JsonMapper;

/**
 * Who went to sign on and is not back yet: strangers, whose sessions are soon forgotten. What they
 * were sent with is kept as text: no class but the plainest is read out of a session.
 */
final class OnTheirWay implements AuthorizationRequestRepository<OAuth2AuthorizationRequest> {
  private static final Duration LONGEST = Duration.ofMinutes(10);
  private static final String ASKED = "asked";
  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** With what one was sent. */
  private record Asked(
      String to,
      String client,
      String back,
      Set<String> scopes,
      String state,
      Map<String, String> parameters,
      Map<String, String> attributes) {

    static Asked of(OAuth2AuthorizationRequest asked) {
      return new Asked(
          asked.getAuthorizationUri(),
          asked.getClientId(),
          asked.getRedirectUri(),
          asked.getScopes(),
          asked.getState(),
          text(asked.getAdditionalParameters()),
          text(asked.getAttributes()));
    }

    private static Map<String, String> text(Map<String, Object> values) {
      Map<String, String> text = new HashMap<>();
      values.forEach((name, value) -> text.put(name, String.valueOf(value)));
      return text;
    }

    OAuth2AuthorizationRequest request() {
      return OAuth2AuthorizationRequest.authorizationCode()
          .authorizationUri(to)
          .clientId(client)
          .redirectUri(back)
          .scopes(scopes)
          .state(state)
          .additionalParameters(new HashMap<>(parameters))
          .attributes(all -> all.putAll(attributes))
          .build();
    }
  }

  /** None where its state is not the one that one was sent with. */
  @Override
  public OAuth2AuthorizationRequest loadAuthorizationRequest(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    String state = request.getParameter("state");
    if (session == null || !(session.getAttribute(ASKED) instanceof String text)) {
      return null;
    }
    Asked asked = JSON.readValue(text, Asked.class);
    return asked.state().equals(state) ? asked.request() : null;
  }

  @Override
  public void saveAuthorizationRequest(
      OAuth2AuthorizationRequest asked, HttpServletRequest request, HttpServletResponse response) {
    boolean stranger = request.getSession(false) == null;
    HttpSession session = request.getSession(true);
    session.setAttribute(ASKED, JSON.writeValueAsString(Asked.of(asked)));
    if (stranger) {
      session.setMaxInactiveInterval((int) LONGEST.toSeconds());
    }
  }

  @Override
  public OAuth2AuthorizationRequest removeAuthorizationRequest(
      HttpServletRequest request, HttpServletResponse response) {
    OAuth2AuthorizationRequest asked = loadAuthorizationRequest(request);
    if (asked != null) {
      request.getSession(false).removeAttribute(ASKED);
    }
    return asked;
  }
}
