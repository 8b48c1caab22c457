package jamjar.server.web;

import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/**
 * The addresses of the front end's pages: all of them are the one page that finds out from its
 * address what to show.
 */
@Controller
class PagesController {

  @GetMapping({
    "/now",
    "/shelf",
    "/alerts",
    "/beans",
    "/baseline",
    "/compare",
    "/counters",
    "/moved",
    "/sessions",
    "/locks",
    "/statements",
    "/facts",
    "/recipes",
    "/endpoints",
    "/estate",
    "/limits",
    "/memory",
    "/pools",
    "/together",
    "/applications",
    "/about",
    "/enter",
    "/account",
    "/people",
    "/audit",
    "/settings",
    "/telling"
  })
  String page() {
    return "forward:/index.html";
  }
}
