package jamjar.server.jvms;

import jamjar.collect.jmx.LocalJvms;
import jamjar.server.security.Scopes;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The JVMs of this machine, offered to be watched; none is attached to before it is picked. */
@RestController
@RequestMapping(path = "/api/jvms", produces = "application/json")
class JvmController {

  /**
   * One JVM of this machine and user.
   *
   * @param command its main class or jar; arguments are left out, as they may hold secrets
   * @param own whether it is Jam Jar
   */
  record Found(long process, String command, boolean own) {}

  @GetMapping
  List<Found> all() {
    // they are in no scope before they are watched
    return !Scopes.isAll()
        ? List.of()
        : LocalJvms.all().stream()
            .filter(found -> !found.what().isBlank())
            .map(found -> new Found(found.process(), found.what().split(" ")[0], found.own()))
            .toList();
  }
}
