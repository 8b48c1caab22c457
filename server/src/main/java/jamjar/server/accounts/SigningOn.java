package jamjar.server.accounts;

import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.problems.Problem;
import jamjar.server.security.LetIn;
import jamjar.server.security.Role;
import jamjar.store.Store;
import jamjar.store.accounts.AccountRow;
import jamjar.store.accounts.GroupRightRow;
import java.time.Clock;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/** The accounts of those who are known elsewhere: what they may is what their groups may. */
@Service
public class SigningOn {
  private static final Logger LOG = LoggerFactory.getLogger(SigningOn.class);
  private static final int LONGEST_NAME = 70;

  private final Store store;
  private final AccountService accounts;
  private final Changes changes;
  private final LetIn letIn;
  private final Clock clock;

  SigningOn(Store store, AccountService accounts, Changes changes, LetIn letIn, Clock clock) {
    this.store = store;
    this.accounts = accounts;
    this.changes = changes;
    this.letIn = letIn;
    this.clock = clock;
  }

  /**
   * Somebody as told elsewhere.
   *
   * @param issuer by whom
   * @param subject as whom: it is nobody else's there, and stays theirs
   * @param name what they are called; another may be called so too
   * @param groups that they are in
   */
  public record Stranger(String issuer, String subject, String name, List<String> groups) {}

  /** They are known, and not let in all the same. */
  public static final class Refused extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final String why;

    Refused(String why, String message) {
      super(message);
      this.why = why;
    }

    /** A word: groups or off. */
    public String why() {
      return why;
    }
  }

  /** What somebody may. */
  private record Right(String role, String[] scope) {}

  /**
   * The number of their account, which is made when they come first, and may from now on what their
   * groups may.
   *
   * @throws Refused when none of their groups may anything, or the account is switched off
   */
  public int account(Stranger who, String address) {
    Right right = right(who.groups());
    AccountRow row =
        store.inOne(
            () -> {
              // who comes twice at once is one
              store.accounts().alone();
              Optional<AccountRow> known = store.accounts().bySubject(who.issuer(), who.subject());
              return known.isEmpty() ? made(who, right, address) : as(known.get(), right, address);
            });
    letIn.forget();
    if (row.off()) {
      throw new Refused("off", "the account is switched off");
    }
    accounts.came(row, "single sign-on", address);
    return row.id();
  }

  private AccountRow made(Stranger who, Right right, String address) {
    AccountRow row =
        new AccountRow(
            0,
            free(who.name()),
            null,
            right.role,
            right.scope,
            false,
            clock.instant(),
            null,
            who.issuer(),
            who.subject());
    AccountRow stored = store.accounts().byId(store.accounts().add(row)).orElseThrow();
    changes.add(row.name(), address, What.ACCOUNT, row.name(), AccountView.of(stored));
    return stored;
  }

  private AccountRow as(AccountRow known, Right right, String address) {
    boolean last = store.accounts().administrators().equals(List.of(known.id()));
    if (last && !right.role.equals(Role.ADMINISTER.word())) {
      // or nobody could let anybody in any more
      LOG.warn("event=last-administrator-stays who=\"{}\"", known.name());
      return known;
    }
    if (known.role().equals(right.role) && Arrays.equals(known.scope(), right.scope)) {
      return known;
    }
    store.accounts().change(known.id(), known.name(), right.role, right.scope, known.off());
    AccountRow stored = store.accounts().byId(known.id()).orElseThrow();
    changes.add(known.name(), address, What.ACCOUNT, known.name(), AccountView.of(stored));
    return stored;
  }

  /** Of the groups with the role that may most; their scopes add up. */
  private Right right(List<String> groups) {
    List<GroupRightRow> theirs =
        store.accounts().groupRights().stream()
            .filter(right -> groups.contains(right.name()))
            .toList();
    Role most =
        theirs.stream()
            .map(right -> Role.of(right.role()))
            .max(Comparator.naturalOrder())
            .orElseThrow(() -> new Refused("groups", "none of the groups may anything: " + groups));
    List<GroupRightRow> widest =
        theirs.stream().filter(right -> Role.of(right.role()) == most).toList();
    boolean all = widest.stream().anyMatch(right -> right.scope().length == 0);
    String[] scope =
        all
            ? new String[0]
            : widest.stream()
                .flatMap(right -> Arrays.stream(right.scope()))
                .distinct()
                .sorted()
                .toArray(String[]::new);
    return new Right(most.word(), scope);
  }

  /** As they are called there, where nobody is called so here: an account is never taken over. */
  private String free(String told) {
    String plain = told.replaceAll("[^\\p{L}\\p{N} ._@+-]", " ").strip();
    String begins = plain.replaceFirst("^[^\\p{L}\\p{N}]+", "");
    String name = begins.isEmpty() ? "somebody" : begins;
    String cut = name.substring(0, Math.min(name.length(), LONGEST_NAME));
    for (int number = 1; ; number++) {
      String tried = number == 1 ? cut : cut + " " + number;
      try {
        accounts.nameIsFree(0, tried);
        return tried;
      } catch (Problem taken) {
        // the next one
      }
    }
  }
}
