package jamjar.server.signon;

import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** Who could not be sent to sign on, or came back from nowhere, is told so where one comes in. */
@Controller
class NotAsked {
  static final String FAILED = "failed";
  static final String REFUSED = "/shelf?refused=";

  @GetMapping({"/sign-on/company", Company.BACK})
  String back() {
    return "redirect:" + REFUSED + FAILED;
  }
}
