package jamjar.server.accounts;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.security.Actor;
import jamjar.server.security.LetIn;
import jamjar.server.security.Secrets;
import jamjar.store.Store;
import jamjar.store.accounts.TokenRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What programs are let in by. */
@RestController
@RequestMapping(path = "/api/tokens", produces = "application/json")
class TokenController {
  private static final Duration LONGEST = Duration.ofDays(366);
  private final Store store;
  private final Changes changes;
  private final AccountService accounts;
  private final LetIn letIn;
  private final Clock clock;

  TokenController(Store store, Changes changes, AccountService accounts, LetIn letIn, Clock clock) {
    this.store = store;
    this.changes = changes;
    this.accounts = accounts;
    this.letIn = letIn;
    this.clock = clock;
  }

  /**
   * A token as told: never what it is.
   *
   * @param scope sites, groups and tags whose instances it is about; none for all
   * @param madeAt epoch ms
   * @param endsAt epoch ms
   * @param usedAt epoch ms, to the minute; null for never
   */
  @Schema(name = "Token")
  record Told(
      int id,
      String name,
      String role,
      List<String> scope,
      String madeBy,
      long madeAt,
      long endsAt,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long usedAt) {
    static Told of(TokenRow row) {
      return new Told(
          row.id(),
          row.name(),
          row.role(),
          List.of(row.scope()),
          row.madeBy(),
          row.madeAt().toEpochMilli(),
          row.endsAt().toEpochMilli(),
          row.usedAt() == null ? null : row.usedAt().toEpochMilli());
    }
  }

  /**
   * A token that is wanted.
   *
   * @param scope sites, groups and tags whose instances it is about; none for all
   * @param endsAt epoch ms; within a year
   */
  @Schema(name = "TokenBody")
  record Body(
      @NotNull @Pattern(regexp = AccountView.NAME, message = AccountView.NAME_RULE) String name,
      @NotNull @Pattern(regexp = AccountView.ROLES, message = AccountView.ROLE_RULE) String role,
      @Schema(requiredMode = Schema.RequiredMode.NOT_REQUIRED) @Size(max = AccountView.MOST_SCOPES)
          List<
                  @NotNull @Pattern(regexp = AccountView.SCOPE, message = AccountView.SCOPE_RULE)
                  String>
              scope,
      long endsAt) {}

  /** The one time that it is told. */
  @Schema(name = "NewToken")
  record Made(String name, String token) {
    @Override
    public String toString() {
      return name;
    }
  }

  @GetMapping
  List<Told> all() {
    return store.accounts().tokens().stream().map(Told::of).toList();
  }

  @PostMapping
  Made add(@Valid @RequestBody Body body) {
    Instant now = clock.instant();
    Instant ends = Times.of("endsAt", body.endsAt());
    if (!ends.isAfter(now) || ends.isAfter(now.plus(LONGEST))) {
      throw Problem.field("endsAt", "A token ends within a year, and not before it begins.");
    }
    accounts.nameIsFree(0, body.name());
    String token = Secrets.fresh();
    TokenRow row =
        new TokenRow(
            0,
            body.name(),
            Secrets.hash(token),
            body.role(),
            AccountView.scope(body.scope(), body.role()),
            Actor.who(),
            now,
            ends,
            null);
    store.inOne(
        () -> {
          store.accounts().addToken(row);
          changes.add(What.TOKEN, row.name(), null, body);
        });
    return new Made(row.name(), token);
  }

  /** From now on it lets nobody in. */
  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable int id) {
    Told before =
        all().stream()
            .filter(one -> one.id() == id)
            .findFirst()
            .orElseThrow(() -> Problem.unknown("There is no token " + id + "."));
    store.inOne(
        () -> {
          store.accounts().removeToken(id);
          changes.add(What.TOKEN, before.name(), before, null);
        });
    letIn.forget();
  }
}
