package jamjar.server.security;

import jakarta.servlet.DispatcherType;
import jakarta.servlet.Filter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jamjar.server.problems.ProblemWriter;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.security.authorization.AuthorizationDecision;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configuration.EnableWebSecurity;
import org.springframework.security.config.annotation.web.configurers.AbstractHttpConfigurer;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.security.crypto.password.DelegatingPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.intercept.AuthorizationFilter;
import org.springframework.security.web.authentication.AnonymousAuthenticationFilter;
import org.springframework.security.web.context.RequestAttributeSecurityContextRepository;
import org.springframework.security.web.csrf.CsrfException;
import org.springframework.security.web.util.matcher.DispatcherTypeRequestMatcher;

/** Who is let in to what. */
@Configuration
@EnableWebSecurity
class AccessConfiguration {
  private static final Logger LOG = LoggerFactory.getLogger(AccessConfiguration.class);
  private final ProblemWriter problems;

  AccessConfiguration(ProblemWriter problems) {
    this.problems = problems;
  }

  /**
   * Argon2id as RFC 9106 gives it for where memory is short, in a form that tells by what it was
   * made: one made in an older way is made anew at the next sign-in.
   */
  @Bean
  PasswordEncoder passwordEncoder() {
    return new DelegatingPasswordEncoder(
        "argon2id", Map.of("argon2id", new Argon2PasswordEncoder(16, 32, 1, 1 << 14, 2)));
  }

  /** It has its place behind what keeps sessions, and none besides. */
  @Bean
  FilterRegistrationBean<Arrivals> onlyThere(Arrivals arrivals) {
    return none(arrivals);
  }

  /** Likewise, behind what decides whether the role may. */
  @Bean
  FilterRegistrationBean<InScope> onlyThen(InScope inScope) {
    return none(inScope);
  }

  private static <T extends Filter> FilterRegistrationBean<T> none(T filter) {
    FilterRegistrationBean<T> registration = new FilterRegistrationBean<>(filter);
    registration.setEnabled(false);
    return registration;
  }

  @Bean
  SecurityFilterChain access(
      HttpSecurity http, Arrivals arrivals, InScope inScope, List<Door> others) {
    others.forEach(door -> door.open(http));
    http.authorizeHttpRequests(
            all ->
                all.requestMatchers(
                        new DispatcherTypeRequestMatcher(DispatcherType.ASYNC),
                        new DispatcherTypeRequestMatcher(DispatcherType.FORWARD),
                        new DispatcherTypeRequestMatcher(DispatcherType.ERROR))
                    .permitAll()
                    .requestMatchers("/api/**")
                    .access(
                        (known, context) -> new AuthorizationDecision(may(context.getRequest())))
                    // the front end's own files hold no data
                    .anyRequest()
                    .permitAll())
        .addFilterBefore(arrivals, AuthorizationFilter.class)
        .addFilterAfter(inScope, AuthorizationFilter.class)
        .csrf(csrf -> csrf.spa().ignoringRequestMatchers(LetIn::bringsToken))
        // who asks is found out by what arrives, and kept for the request: what manages sessions
        // would ask the database for one each time
        .securityContext(
            context ->
                context.securityContextRepository(new RequestAttributeSecurityContextRepository()))
        .sessionManagement(AbstractHttpConfigurer::disable)
        .anonymous(nobody -> nobody.authenticationFilter(nobody()))
        .exceptionHandling(
            refusals ->
                refusals
                    .authenticationEntryPoint((request, response, e) -> unknown(response))
                    .accessDeniedHandler(
                        (request, response, e) ->
                            refused(request, response, e instanceof CsrfException)))
        // the other headers are set for whatever is answered
        .headers(AbstractHttpConfigurer::disable)
        .requestCache(AbstractHttpConfigurer::disable)
        .formLogin(AbstractHttpConfigurer::disable)
        .httpBasic(AbstractHttpConfigurer::disable)
        .logout(AbstractHttpConfigurer::disable);
    return http.build();
  }

  /** Nobody's session is asked for either. */
  private static AnonymousAuthenticationFilter nobody() {
    AnonymousAuthenticationFilter nobody = new AnonymousAuthenticationFilter("nobody");
    nobody.setAuthenticationDetailsSource(HttpServletRequest::getRemoteAddr);
    return nobody;
  }

  private static boolean may(HttpServletRequest request) {
    Optional<Permits.Row> row = Permits.of(request.getMethod(), request.getRequestURI());
    if (row.isEmpty()) {
      return false;
    }
    return row.get().least().isEmpty()
        || Actor.current().filter(actor -> actor.role().may(row.get().least().get())).isPresent();
  }

  private void unknown(HttpServletResponse response) throws IOException {
    problems.write(
        response, HttpStatus.UNAUTHORIZED, "sign-in", "Sign in first: nobody is signed in here.");
  }

  private void refused(HttpServletRequest request, HttpServletResponse response, boolean forged)
      throws IOException {
    if (forged) {
      problems.write(
          response,
          HttpStatus.FORBIDDEN,
          "forged",
          "This did not come from Jam Jar's own page, or its page is too old: load it again.");
      return;
    }
    Optional<Role> least =
        Permits.of(request.getMethod(), request.getRequestURI()).flatMap(Permits.Row::least);
    if (least.isEmpty()) {
      problems.write(
          response,
          HttpStatus.NOT_FOUND,
          "unknown",
          "There is no " + request.getMethod() + " " + request.getRequestURI() + ".");
      return;
    }
    String who = Actor.current().map(a -> a.name() + " has '" + a.role().word() + "'").orElse("");
    LOG.warn(
        "event=refused who=\"{}\" from={} asked=\"{} {}\" takes={}",
        who,
        Actor.from(),
        request.getMethod(),
        request.getRequestURI(),
        least.get().word());
    problems.write(
        response,
        HttpStatus.FORBIDDEN,
        "role",
        "This takes the role '"
            + least.get().word()
            + "'; "
            + who
            + ". Who administers Jam Jar can change that.");
  }
}
