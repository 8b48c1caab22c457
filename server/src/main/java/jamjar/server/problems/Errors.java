package jamjar.server.problems;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import org.springframework.boot.webmvc.error.ErrorController;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What never came to a controller is told as a problem document too. */
@Hidden
@RestController
class Errors implements ErrorController {

  @RequestMapping("/error")
  ResponseEntity<ProblemDetail> error(HttpServletRequest request) {
    // asked for by a person, it is an address like any other: there is nothing
    HttpStatus status =
        request.getAttribute(RequestDispatcher.ERROR_STATUS_CODE) instanceof Integer code
                && HttpStatus.resolve(code) != null
            ? HttpStatus.valueOf(code)
            : HttpStatus.NOT_FOUND;
    ProblemDetail detail =
        ProblemDetail.forStatusAndDetail(
            status,
            status == HttpStatus.NOT_FOUND
                ? "There is nothing at this address."
                : "The request could not be answered: " + status.getReasonPhrase() + ".");
    detail.setType(URI.create("urn:jamjar:" + (status.is5xxServerError() ? "failed" : "refused")));
    return ResponseEntity.status(status)
        .contentType(MediaType.APPLICATION_PROBLEM_JSON)
        .body(detail);
  }
}
