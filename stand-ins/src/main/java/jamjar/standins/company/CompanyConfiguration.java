package jamjar.standins.company;

import com.nimbusds.jose.jwk.JWKSet;
import com.nimbusds.jose.jwk.RSAKey;
import com.nimbusds.jose.jwk.source.ImmutableJWKSet;
import com.nimbusds.jose.jwk.source.JWKSource;
import com.nimbusds.jose.proc.SecurityContext;
import jamjar.standins.company.CompanySignOn.People;
import jamjar.standins.company.CompanySignOn.Person;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.interfaces.RSAPrivateKey;
import java.security.interfaces.RSAPublicKey;
import java.util.UUID;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.security.config.Customizer;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configuration.EnableWebSecurity;
import org.springframework.security.config.annotation.web.configuration.OAuth2AuthorizationServerConfiguration;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetails;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.oauth2.jwt.JwtDecoder;
import org.springframework.security.oauth2.server.authorization.settings.AuthorizationServerSettings;
import org.springframework.security.oauth2.server.authorization.token.JwtEncodingContext;
import org.springframework.security.oauth2.server.authorization.token.OAuth2TokenCustomizer;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.web.servlet.config.annotation.EnableWebMvc;

/** What a company's sign-on is made of. */
@Configuration
@EnableWebMvc
@EnableWebSecurity
class CompanyConfiguration {
  private static final int BITS = 2048;

  @Bean
  SecurityFilterChain all(HttpSecurity http) {
    return http.oauth2AuthorizationServer(server -> server.oidc(Customizer.withDefaults()))
        .authorizeHttpRequests(all -> all.anyRequest().authenticated())
        .formLogin(Customizer.withDefaults())
        .build();
  }

  @Bean
  AuthorizationServerSettings settings() {
    return AuthorizationServerSettings.builder().build();
  }

  @Bean
  UserDetailsService users(People people) {
    return name -> {
      Person person = people.all().get(name);
      if (person == null) {
        throw new UsernameNotFoundException(name);
      }
      return user(person);
    };
  }

  private static UserDetails user(Person person) {
    return User.withUsername(person.name())
        .password("{noop}" + person.password())
        .authorities("person")
        .build();
  }

  /** Groups are told with who somebody is. */
  @Bean
  OAuth2TokenCustomizer<JwtEncodingContext> groups(People people) {
    return context -> {
      if (context.getTokenType().getValue().equals("id_token")) {
        Person person = people.all().get(context.getPrincipal().getName());
        context
            .getClaims()
            .claim("preferred_username", person.name())
            .claim("groups", person.groups());
      }
    };
  }

  @Bean
  JWKSource<SecurityContext> keys() throws GeneralSecurityException {
    KeyPairGenerator generator = KeyPairGenerator.getInstance("RSA");
    generator.initialize(BITS);
    KeyPair pair = generator.generateKeyPair();
    return new ImmutableJWKSet<>(
        new JWKSet(
            new RSAKey.Builder((RSAPublicKey) pair.getPublic())
                .privateKey((RSAPrivateKey) pair.getPrivate())
                .keyID(UUID.randomUUID().toString())
                .build()));
  }

  @Bean
  JwtDecoder decoder(JWKSource<SecurityContext> keys) {
    return OAuth2AuthorizationServerConfiguration.jwtDecoder(keys);
  }
}
