package jamjar.server.accounts;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jamjar.server.problems.Problem;
import jamjar.server.security.Actor;
import jamjar.server.security.LetIn;
import jamjar.server.security.LetIn.How;
import jamjar.server.security.SignOn;
import jamjar.store.accounts.AccountRow;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
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

/** Signing in and out, and what one may change of one's own account. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class SignInController {
  private final AccountService accounts;
  private final LetIn letIn;
  private final SignOn signOn;

  SignInController(AccountService accounts, LetIn letIn, SignOn signOn) {
    this.accounts = accounts;
    this.letIn = letIn;
    this.signOn = signOn;
  }

  /** Who is signed in here; nobody is an answer too. */
  @GetMapping("/session")
  AccountView.Me me() {
    Optional<Actor> actor = Actor.current();
    return new AccountView.Me(
        actor.map(Actor::name).orElse(null),
        actor.map(a -> a.role().word()).orElse(null),
        actor.map(a -> a.scope().words()).orElse(List.of()),
        actor.isEmpty() && accounts.nobodyYet(),
        elsewhere());
  }

  private String elsewhere() {
    return signOn.isThere() ? signOn.name() : null;
  }

  /** Signs in. */
  @PostMapping("/session")
  AccountView.Me signIn(@Valid @RequestBody AccountView.SignIn body, HttpServletRequest request) {
    AccountRow row = accounts.signIn(body.name(), body.password(), request.getRemoteAddr());
    return in(request, row, How.PASSWORD);
  }

  /**
   * Signs in by a key that lets in once. One for making the first administrator is not used up:
   * {@code first} says that it is one.
   */
  @PostMapping("/session/key")
  AccountView.Me enter(@Valid @RequestBody AccountView.Key body, HttpServletRequest request) {
    boolean first = accounts.key(body.key()).orElseThrow(AccountService::noKey).account() == null;
    return first
        ? new AccountView.Me(null, null, List.of(), true, elsewhere())
        : in(request, accounts.enter(body.key(), request.getRemoteAddr()), How.KEY);
  }

  /** Makes the first administrator, who is signed in. */
  @PostMapping("/accounts/first")
  AccountView.Me first(@Valid @RequestBody AccountView.First body, HttpServletRequest request) {
    return in(request, accounts.first(body, request.getRemoteAddr()), How.PASSWORD);
  }

  private AccountView.Me in(HttpServletRequest request, AccountRow row, How how) {
    letIn.signIn(request, row.id(), how);
    return new AccountView.Me(row.name(), row.role(), List.of(row.scope()), false, elsewhere());
  }

  /** Signs out here. */
  @DeleteMapping("/session")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void signOut(HttpServletRequest request) {
    letIn.signOut(request);
  }

  /**
   * A browser that one is signed in with.
   *
   * @param name by which it is signed out
   * @param since epoch ms
   * @param used epoch ms
   * @param from the address that it signed in from
   * @param browser what it says that it is
   * @param by password, key or sign_on; empty where that is not known
   * @param here whether it is the one that asks
   */
  @Schema(name = "SignedIn")
  record SignedIn(
      String name, long since, long used, String from, String browser, String by, boolean here) {
    static SignedIn of(LetIn.Browser one, String here) {
      return new SignedIn(
          one.name(),
          one.since().toEpochMilli(),
          one.used().toEpochMilli(),
          one.from(),
          one.browser(),
          one.by().toLowerCase(Locale.ROOT),
          one.name().equals(here));
    }
  }

  /** Where one is signed in. */
  @GetMapping("/account/sessions")
  List<SignedIn> sessions(HttpServletRequest request) {
    String here = letIn.browserOf(request);
    return letIn.browsers(self()).stream().map(one -> SignedIn.of(one, here)).toList();
  }

  /** Signs out one of them. */
  @DeleteMapping("/account/sessions/{browser}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void signOutOne(@PathVariable String browser) {
    if (!letIn.signOut(self(), browser)) {
      throw Problem.unknown("You are not signed in there any more.");
    }
  }

  /** Signs out everywhere, here too. */
  @DeleteMapping("/account/sessions")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void signOutEverywhere(HttpServletRequest request) {
    accounts.signOut(self());
    signOut(request);
  }

  /** How one likes it; as it is at first where one never said. */
  @GetMapping("/account/likes")
  Likes likes() {
    return accounts.likes(self());
  }

  /** Keeps what one likes otherwise, for each browser; what is left out stays. */
  @PutMapping("/account/likes")
  Likes like(@Valid @RequestBody LikesChange body) {
    return accounts.like(self(), body);
  }

  /**
   * Changes one's own password; all other browsers are signed out. Who came in by a key need not
   * know the old one.
   */
  @PutMapping("/account/password")
  AccountView.Me password(
      @Valid @RequestBody AccountView.NewPassword body, HttpServletRequest request) {
    int self = self();
    accounts.password(self, body, letIn.byKey(request), request.getRemoteAddr());
    return in(request, accounts.row(self), How.PASSWORD);
  }

  private static int self() {
    return Actor.current()
        .map(Actor::account)
        .filter(account -> account > 0)
        .orElseThrow(() -> Problem.unknown("A program has no account of its own."));
  }
}
