package jamjar.server.signon;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jamjar.server.accounts.SigningOn;
import jamjar.server.accounts.SigningOn.Refused;
import jamjar.server.accounts.SigningOn.Stranger;
import jamjar.server.security.Door;
import jamjar.server.security.LetIn;
import jamjar.server.security.SecretBox;
import jamjar.server.security.SignOn;
import jamjar.store.StoreAway;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.env.Environment;
import org.springframework.http.client.ClientHttpRequestFactory;
import org.springframework.http.converter.FormHttpMessageConverter;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.oauth2.client.OAuth2AuthorizedClient;
import org.springframework.security.oauth2.client.endpoint.RestClientAuthorizationCodeTokenResponseClient;
import org.springframework.security.oauth2.client.http.OAuth2ErrorResponseErrorHandler;
import org.springframework.security.oauth2.client.oidc.userinfo.OidcUserService;
import org.springframework.security.oauth2.client.userinfo.DefaultOAuth2UserService;
import org.springframework.security.oauth2.client.web.OAuth2AuthorizedClientRepository;
import org.springframework.security.oauth2.core.OAuth2AuthenticationException;
import org.springframework.security.oauth2.core.http.converter.OAuth2AccessTokenResponseHttpMessageConverter;
import org.springframework.security.oauth2.core.oidc.user.OidcUser;
import org.springframework.stereotype.Component;
import org.springframework.web.client.RestClient;
import org.springframework.web.client.RestTemplate;

/**
 * Lets in who is known elsewhere, by OpenID Connect's code flow with PKCE, state and nonce. Of what
 * is told there no more is kept than whose account it is: no token of theirs, and where one is sent
 * afterwards is always the same.
 */
@Component
class SignOnDoor implements Door {
  private static final Logger LOG = LoggerFactory.getLogger(SignOnDoor.class);

  private final SignOn signOn;
  private final SigningOn signingOn;
  private final LetIn letIn;
  private final ClientHttpRequestFactory patient;
  private final SecretBox secrets;
  private final Environment environment;
  private final Clock clock;

  SignOnDoor(
      SignOn signOn,
      SigningOn signingOn,
      LetIn letIn,
      ClientHttpRequestFactory patient,
      SecretBox secrets,
      Environment environment,
      Clock clock) {
    this.signOn = signOn.checked();
    this.signingOn = signingOn;
    this.letIn = letIn;
    this.patient = patient;
    this.secrets = secrets;
    this.environment = environment;
    this.clock = clock;
  }

  @Override
  public void open(HttpSecurity http) {
    if (!signOn.isThere()) {
      return;
    }
    Company company =
        new Company(signOn, RestClient.builder().requestFactory(patient).build(), clock);
    RestClientAuthorizationCodeTokenResponseClient tokens =
        new RestClientAuthorizationCodeTokenResponseClient();
    tokens.setRestClient(
        RestClient.builder()
            .requestFactory(patient)
            .configureMessageConverters(
                converters ->
                    converters
                        .addCustomConverter(new FormHttpMessageConverter())
                        .addCustomConverter(new OAuth2AccessTokenResponseHttpMessageConverter()))
            .defaultStatusHandler(new OAuth2ErrorResponseErrorHandler())
            .build());
    DefaultOAuth2UserService more = new DefaultOAuth2UserService();
    more.setRestOperations(new RestTemplate(patient));
    OidcUserService users = new OidcUserService();
    users.setOauth2UserService(more);
    http.oauth2Login(
        login ->
            login
                .clientRegistrationRepository(company)
                .authorizedClientRepository(new Forgotten())
                .authorizationEndpoint(
                    to ->
                        to.authorizationRequestResolver(new Asking(company))
                            .authorizationRequestRepository(
                                new OnTheirWay(secrets, environment, clock)))
                .redirectionEndpoint(back -> back.baseUri(Company.BACK))
                .tokenEndpoint(token -> token.accessTokenResponseClient(tokens))
                .userInfoEndpoint(user -> user.oidcUserService(users))
                .loginPage("/")
                .successHandler(this::came)
                .failureHandler(this::failed));
  }

  private void came(HttpServletRequest request, HttpServletResponse response, Authentication known)
      throws IOException {
    OidcUser user = (OidcUser) known.getPrincipal();
    Stranger who =
        new Stranger(
            signOn.issuer(), user.getSubject(), name(user), groups(user.getClaim(signOn.groups())));
    try {
      int account = signingOn.account(who, request.getRemoteAddr());
      letIn.signIn(request, account, LetIn.How.SIGN_ON);
      response.sendRedirect("/");
    } catch (Refused e) {
      LOG.warn(
          "event=sign-on-refused who=\"{}\" from={} why=\"{}\"",
          who.name().replace('"', '\''),
          request.getRemoteAddr(),
          e.getMessage().replace('"', '\''));
      back(response, e.why());
    } catch (RuntimeException e) {
      if (!StoreAway.is(e)) {
        throw e;
      }
      back(response, "away");
    }
  }

  private static String name(OidcUser user) {
    String name = user.getPreferredUsername();
    return name == null || name.isBlank() ? user.getSubject() : name;
  }

  /** A list, or words apart. */
  private static List<String> groups(Object told) {
    if (told instanceof List<?> list) {
      return list.stream().map(String::valueOf).toList();
    }
    return told == null ? List.of() : List.of(told.toString().split("[ ,]+"));
  }

  private void failed(
      HttpServletRequest request, HttpServletResponse response, AuthenticationException e)
      throws IOException {
    // its code alone: what came with it is theirs, and may hold what nobody is to read
    String code = e instanceof OAuth2AuthenticationException o ? o.getError().getErrorCode() : "";
    LOG.warn(
        "event=sign-on-failed from={} why=\"{} {}\"",
        request.getRemoteAddr(),
        e.getClass().getSimpleName(),
        code.replaceAll("\\W", " "));
    back(response, NotAsked.FAILED);
  }

  private static void back(HttpServletResponse response, String why) throws IOException {
    response.sendRedirect(NotAsked.REFUSED + why);
  }

  /** What is let in by theirs is not asked for again. */
  private static final class Forgotten implements OAuth2AuthorizedClientRepository {
    @Override
    public <T extends OAuth2AuthorizedClient> T loadAuthorizedClient(
        String id, Authentication who, HttpServletRequest request) {
      return null;
    }

    @Override
    public void saveAuthorizedClient(
        OAuth2AuthorizedClient client,
        Authentication who,
        HttpServletRequest request,
        HttpServletResponse response) {
      // their tokens are of no further use
    }

    @Override
    public void removeAuthorizedClient(
        String id, Authentication who, HttpServletRequest request, HttpServletResponse response) {
      // there is none
    }
  }
}
