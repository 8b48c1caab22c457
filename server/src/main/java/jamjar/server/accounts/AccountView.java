package jamjar.server.accounts;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import jamjar.server.problems.Problem;
import jamjar.server.security.Role;
import jamjar.store.accounts.AccountRow;
import java.time.Instant;
import java.util.List;

/**
 * An account as told: never with its password.
 *
 * @param role look, act, shape or administer
 * @param scope sites, groups and tags whose instances it is about; none for all
 * @param password whether it has one; without one its owner comes in by a key for once
 * @param elsewhere whether its owner comes by single sign-on, and may what their groups may
 * @param off whether it is switched off
 * @param signedInAt epoch ms of the last time; null for never
 */
@Schema(name = "Account")
public record AccountView(
    int id,
    String name,
    String role,
    List<String> scope,
    boolean password,
    boolean elsewhere,
    boolean off,
    long madeAt,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long signedInAt) {

  /** What an account is called: told to all who look, so it is kept to what reads well. */
  static final String NAME = "[\\p{L}\\p{N}][\\p{L}\\p{N} ._@+-]{0,79}";

  static final String NAME_RULE =
      "begins with a letter or digit, and holds no other signs than . _ @ + -";
  public static final String ROLES = "look|act|shape|administer";
  public static final String ROLE_RULE = "is look, act, shape or administer";

  /** A site, a group or a tag. */
  public static final String SCOPE = "(site|group|tag):.{1,80}";

  public static final String SCOPE_RULE = "is site:NAME, group:NAME or tag:NAME";
  public static final int MOST_SCOPES = 50;

  /**
   * A scope as it is stored.
   *
   * @param words null for all
   */
  public static String[] scope(List<String> words, String role) {
    String[] scope =
        words == null ? new String[0] : words.stream().distinct().toArray(String[]::new);
    if (scope.length > 0 && role.equals(Role.ADMINISTER.word())) {
      throw Problem.field("scope", "Who administers, administers all: choose another role.");
    }
    return scope;
  }

  static AccountView of(AccountRow row) {
    return new AccountView(
        row.id(),
        row.name(),
        row.role(),
        List.of(row.scope()),
        row.password() != null,
        row.subject() != null,
        row.off(),
        row.madeAt().toEpochMilli(),
        row.signedInAt() == null ? null : row.signedInAt().toEpochMilli());
  }

  /**
   * What can be set of an account by who administers.
   *
   * @param scope sites, groups and tags whose instances it is about; none for all. Null leaves it
   *     as it is; of a new account it is all
   */
  @Schema(name = "AccountBody")
  record Body(
      @NotNull @Pattern(regexp = NAME, message = NAME_RULE) String name,
      @NotNull @Pattern(regexp = ROLES, message = ROLE_RULE) String role,
      @Schema(requiredMode = Schema.RequiredMode.NOT_REQUIRED) @Size(max = MOST_SCOPES)
          List<@NotNull @Pattern(regexp = SCOPE, message = SCOPE_RULE) String> scope,
      boolean off) {

    AccountRow row(Instant madeAt) {
      return new AccountRow(
          0,
          name.strip(),
          null,
          role,
          AccountView.scope(scope, role),
          off,
          madeAt,
          null,
          null,
          null);
    }

    /** Where none is said it stays as it was: nobody sees more by what is left out. */
    String[] scope(String[] before) {
      boolean stays = scope == null && !role.equals(Role.ADMINISTER.word());
      return AccountView.scope(stays ? List.of(before) : scope, role);
    }
  }

  /** A name and a password. */
  @Schema(name = "SignInBody")
  record SignIn(
      @NotBlank @Size(max = 80) String name, @NotBlank @Size(max = 1000) String password) {
    @Override
    public String toString() {
      return name;
    }
  }

  /** A key that lets in once. */
  @Schema(name = "KeyBody")
  record Key(@NotBlank @Size(max = 100) String key) {
    @Override
    public String toString() {
      return "a key";
    }
  }

  /** With what the first administrator is made. */
  @Schema(name = "FirstBody")
  record First(
      @NotBlank @Size(max = 100) String key,
      @NotNull @Pattern(regexp = NAME, message = NAME_RULE) String name,
      @NotBlank @Size(max = 1000) String password) {
    @Override
    public String toString() {
      return name;
    }
  }

  /**
   * A password that takes the place of another.
   *
   * @param old the one until now; empty where there was none, or a key let in
   */
  @Schema(name = "PasswordBody")
  record NewPassword(
      @NotNull @Size(max = 1000) String old, @NotBlank @Size(max = 1000) String password) {
    @Override
    public String toString() {
      return "a password";
    }
  }

  /**
   * Who is signed in here.
   *
   * @param name null for nobody
   * @param role likewise
   * @param scope of which part of the estate; none for all
   * @param first whether there is nobody yet who could sign in
   * @param elsewhere what single sign-on is called; null where there is none
   */
  @Schema(name = "Me")
  record Me(
      @Schema(types = {"string", "null"}) String name,
      @Schema(types = {"string", "null"}) String role,
      List<String> scope,
      boolean first,
      @Schema(types = {"string", "null"}) String elsewhere) {}

  /**
   * An address by which one comes in once.
   *
   * @param path with the key behind its {@code #}, where no log and no other server sees it
   * @param endsAt epoch ms
   */
  @Schema(name = "Entry")
  record Entry(String path, long endsAt) {}
}
