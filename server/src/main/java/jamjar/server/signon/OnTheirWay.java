package jamjar.server.signon;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jamjar.server.security.SecretBox;
import java.time.Clock;
import java.time.Duration;
import java.util.Base64;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.core.env.Environment;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.security.oauth2.client.web.AuthorizationRequestRepository;
import org.springframework.security.oauth2.core.endpoint.OAuth2AuthorizationRequest;
import org.springframework.web.util.WebUtils;
import tools.jackson.databind.json.JsonMapper;

/**
 * Who went to sign on and is not back yet. With what they were sent is kept by their own browser,
 * locked: of strangers, however many come, nothing is kept here.
 */
final class OnTheirWay implements AuthorizationRequestRepository<OAuth2AuthorizationRequest> {
  private static final Duration LONGEST = Duration.ofMinutes(10);
  private static final String PLACE = "sign-on";
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final SecretBox secrets;
  private final String cookie;
  private final Clock clock;

  /** Cookies don't know ports: two servers of one machine must not take each other's. */
  OnTheirWay(SecretBox secrets, Environment environment, Clock clock) {
    this.secrets = secrets;
    this.cookie = "jamjar-sign-on-" + environment.getProperty("server.port", "0");
    this.clock = clock;
  }

  /**
   * With what one was sent.
   *
   * @param until epoch ms
   */
  private record Asked(
      long until,
      String to,
      String client,
      String back,
      Set<String> scopes,
      String state,
      Map<String, String> parameters,
      Map<String, String> attributes) {

    static Asked of(OAuth2AuthorizationRequest asked, long until) {
      return new Asked(
          until,
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

  /** None where its state is not the one that one was sent with, or too long ago. */
  @Override
  public OAuth2AuthorizationRequest loadAuthorizationRequest(HttpServletRequest request) {
    return Optional.ofNullable(WebUtils.getCookie(request, cookie))
        .map(Cookie::getValue)
        .flatMap(this::opened)
        .filter(asked -> asked.until() > clock.millis())
        .filter(asked -> asked.state().equals(request.getParameter("state")))
        .map(Asked::request)
        .orElse(null);
  }

  /** None where it is not what was sent. */
  private Optional<Asked> opened(String value) {
    try {
      String text = secrets.open(Base64.getUrlDecoder().decode(value), PLACE);
      return Optional.of(JSON.readValue(text, Asked.class));
    } catch (IllegalArgumentException | IllegalStateException e) {
      return Optional.empty();
    }
  }

  @Override
  public void saveAuthorizationRequest(
      OAuth2AuthorizationRequest asked, HttpServletRequest request, HttpServletResponse response) {
    long until = clock.millis() + LONGEST.toMillis();
    byte[] locked = secrets.lock(JSON.writeValueAsString(Asked.of(asked, until)), PLACE);
    String value = Base64.getUrlEncoder().withoutPadding().encodeToString(locked);
    set(value, LONGEST, request, response);
  }

  @Override
  public OAuth2AuthorizationRequest removeAuthorizationRequest(
      HttpServletRequest request, HttpServletResponse response) {
    OAuth2AuthorizationRequest asked = loadAuthorizationRequest(request);
    if (asked != null) {
      set("", Duration.ZERO, request, response);
    }
    return asked;
  }

  /** They come back by a link from elsewhere: Lax lets it through, and nothing stricter. */
  private void set(
      String value, Duration time, HttpServletRequest request, HttpServletResponse response) {
    response.addHeader(
        HttpHeaders.SET_COOKIE,
        ResponseCookie.from(cookie, value)
            .path(Company.BACK)
            .maxAge(time)
            .httpOnly(true)
            .secure(request.isSecure())
            .sameSite("Lax")
            .build()
            .toString());
  }
}
