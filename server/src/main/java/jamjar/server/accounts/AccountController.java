package jamjar.server.accounts;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import jamjar.server.problems.Problem;
import jamjar.server.security.Role;
import java.util.Comparator;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** All accounts, for who administers. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class AccountController {
  private final AccountService accounts;

  AccountController(AccountService accounts) {
    this.accounts = accounts;
  }

  @GetMapping("/accounts")
  List<AccountView> all() {
    return accounts.all();
  }

  /** Its owner comes in by a key for once, and sets a password then. */
  @PostMapping("/accounts")
  AccountView add(@Valid @RequestBody AccountView.Body body) {
    return accounts.add(body);
  }

  @PutMapping("/accounts/{id}")
  AccountView change(@PathVariable int id, @Valid @RequestBody AccountView.Body body) {
    return accounts.change(id, body);
  }

  @DeleteMapping("/accounts/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable int id) {
    accounts.remove(id);
  }

  /** An address that lets its owner in once, within half an hour. */
  @PostMapping("/accounts/{id}/key")
  AccountView.Entry key(@PathVariable int id) {
    return accounts.entry(id);
  }

  @DeleteMapping("/accounts/{id}/sessions")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void signOut(@PathVariable int id) {
    accounts.signOut(accounts.row(id).id());
  }

  /**
   * For whom an address is wanted.
   *
   * @param name of an account; empty for the first who administers, or, where there is nobody yet,
   *     for making the first
   */
  @Schema(name = "OpenBody")
  record Open(@NotNull @Size(max = 80) String name) {}

  /** An address that lets in once, for who runs the server. */
  @PostMapping("/keys")
  AccountView.Entry open(@Valid @RequestBody Open body) {
    List<AccountView> all = accounts.all();
    if (all.isEmpty() && body.name().isEmpty()) {
      return accounts.firstEntry();
    }
    return accounts.entry(
        all.stream()
            .filter(
                one ->
                    body.name().isEmpty()
                        ? one.role().equals(Role.ADMINISTER.word()) && !one.off()
                        : one.name().equalsIgnoreCase(body.name()))
            .min(Comparator.comparing(AccountView::id))
            .orElseThrow(() -> Problem.unknown("There is no account named '" + body.name() + "'."))
            .id());
  }
}
