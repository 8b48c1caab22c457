package jamjar.server.security;

import org.springframework.security.config.annotation.web.builders.HttpSecurity;

/** Another way to come in. */
public interface Door {
  void open(HttpSecurity http);
}
