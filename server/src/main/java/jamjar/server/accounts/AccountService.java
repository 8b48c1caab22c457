package jamjar.server.accounts;

import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.problems.Problem;
import jamjar.server.security.Actor;
import jamjar.server.security.LetIn;
import jamjar.server.security.Role;
import jamjar.server.security.Secrets;
import jamjar.store.Store;
import jamjar.store.accounts.AccountRow;
import jamjar.store.accounts.EntryKeyRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/** Who may sign in, by what, and how far each may go. */
@Service
public class AccountService {
  private static final Logger LOG = LoggerFactory.getLogger(AccountService.class);

  private final Store store;
  private final Changes changes;
  private final Passwords passwords;
  private final LetIn letIn;
  private final Clock clock;
  private final Attempts attempts;

  AccountService(Store store, Changes changes, Passwords passwords, LetIn letIn, Clock clock) {
    this.store = store;
    this.changes = changes;
    this.passwords = passwords;
    this.letIn = letIn;
    this.clock = clock;
    this.attempts = new Attempts(clock);
  }

  List<AccountView> all() {
    return store.accounts().all().stream().map(AccountView::of).toList();
  }

  /** Whether nobody has been made yet. */
  boolean nobodyYet() {
    return store.accounts().all().isEmpty();
  }

  /**
   * The account of a name and its password.
   *
   * @throws Problem when it is not the right one, or too many have been tried
   */
  AccountRow signIn(String name, String password, String address) {
    Optional<Duration> wait = attempts.attempt(name, address);
    if (wait.isPresent()) {
      throw Problem.slower(
          "Too many attempts from here: the next one is looked at in "
              + (wait.get().toSeconds() + 1)
              + " s.");
    }
    Optional<AccountRow> row = store.accounts().byName(name.strip());
    String encoded = row.map(AccountRow::password).orElse(null);
    if (!passwords.matches(password, encoded) || row.get().off()) {
      // a name that is not known may be a password in the wrong field
      refused(row.map(AccountRow::name).orElse("not known"), address);
      // the same words whatever was wrong: nobody learns who has an account
      throw Problem.unknownHere("This name and password do not go together.");
    }
    attempts.succeeded(name, address);
    if (passwords.old(encoded)) {
      store.accounts().password(row.get().id(), passwords.encoded(password));
    }
    came(row.get(), "password", address);
    return row.get();
  }

  /** How somebody came in. */
  private record Came(String by, String outcome) {}

  void came(AccountRow row, String by, String address) {
    Instant now = clock.instant();
    store.inOne(
        () -> {
          store.accounts().signedIn(row.id(), now);
          changes.add(row.name(), address, What.SIGN_IN, row.name(), new Came(by, "let in"));
        });
  }

  /** Nobody fills the history, which nothing is taken from, by what is refused. */
  private void refused(String name, String address) {
    LOG.warn("event=sign-in-refused name=\"{}\" from={}", name, address);
    if (attempts.isTold()) {
      changes.add(name, address, What.SIGN_IN, name, new Came("password", "refused"));
    }
  }

  /** The key that an address holds; none where it is not known, or has ended. */
  Optional<EntryKeyRow> key(String key) {
    return store
        .accounts()
        .key(Secrets.hash(key))
        .filter(row -> row.endsAt().isAfter(clock.instant()));
  }

  /**
   * Lets in by a key, which is used up.
   *
   * @throws Problem when it is no key any more
   */
  AccountRow enter(String key, String address) {
    int account = key(key).map(EntryKeyRow::account).orElseThrow(AccountService::noKey);
    AccountRow row =
        store.accounts().byId(account).filter(a -> !a.off()).orElseThrow(AccountService::noKey);
    store.inOne(
        () -> {
          if (store.accounts().takeKey(Secrets.hash(key)) == 0) {
            throw noKey();
          }
          came(row, "key", address);
        });
    return row;
  }

  static Problem noKey() {
    return Problem.unknownHere(
        "This address has been used, or is too old. On Jam Jar's machine './jamjar open' makes"
            + " another; or ask who administers it.");
  }

  /** Makes the first administrator, by a key that is used up. */
  AccountRow first(AccountView.First body, String address) {
    if (key(body.key()).filter(row -> row.account() == null).isEmpty()) {
      throw noKey();
    }
    nameIsFree(0, body.name());
    String encoded = passwords.fresh(body.password(), body.name());
    AccountRow made =
        store.inOne(
            () -> {
              // whoever comes second waits, and finds somebody there
              store.accounts().alone();
              if (store.accounts().takeKey(Secrets.hash(body.key())) == 0 || !nobodyYet()) {
                throw noKey();
              }
              AccountRow row =
                  new AccountRow(
                      0,
                      body.name().strip(),
                      encoded,
                      Role.ADMINISTER.word(),
                      new String[0],
                      false,
                      clock.instant(),
                      null,
                      null,
                      null);
              int id = store.accounts().add(row);
              store.accounts().dropFirstKeys();
              AccountRow stored = store.accounts().byId(id).orElseThrow();
              changes.add(row.name(), address, What.ACCOUNT, row.name(), AccountView.of(stored));
              return stored;
            });
    came(made, "first key", address);
    return made;
  }

  /** That a key was made. */
  private record Keyed(long keyUntil) {}

  /** A key for making the first administrator. */
  AccountView.Entry firstEntry() {
    return entry(null, "the first administrator");
  }

  /** A key for an account. */
  AccountView.Entry entry(int account) {
    return entry(account, row(account).name());
  }

  private AccountView.Entry entry(Integer account, String name) {
    String key = Secrets.fresh();
    Instant ends = clock.instant().plus(LetIn.KEY);
    store.inOne(
        () -> {
          store.accounts().addKey(new EntryKeyRow(Secrets.hash(key), account, ends));
          changes.add(What.ACCOUNT, name, null, new Keyed(ends.toEpochMilli()));
        });
    return new AccountView.Entry("/enter#key=" + key, ends.toEpochMilli());
  }

  AccountView add(AccountView.Body body) {
    nameIsFree(0, body.name());
    AccountRow row = body.row(clock.instant());
    return store.inOne(
        () -> {
          int id = store.accounts().add(row);
          AccountView view = AccountView.of(row(id));
          changes.add(What.ACCOUNT, row.name(), null, view);
          return view;
        });
  }

  AccountView change(int id, AccountView.Body body) {
    nameIsFree(id, body.name());
    AccountView changed =
        store.inOne(
            () -> {
              AccountRow known = row(id);
              AccountView before = AccountView.of(known);
              boolean stays = body.role().equals(Role.ADMINISTER.word()) && !body.off();
              anotherAdministers(id, stays);
              String name = body.name().strip();
              store.accounts().change(id, name, body.role(), body.scope(known.scope()), body.off());
              store.alerts().assignedCalled(known.name(), name);
              AccountView after = AccountView.of(row(id));
              changes.add(What.ACCOUNT, after.name(), before, after);
              return after;
            });
    if (body.off()) {
      signOut(id);
    }
    letIn.forget();
    return changed;
  }

  void remove(int id) {
    store.inOne(
        () -> {
          AccountView before = AccountView.of(row(id));
          anotherAdministers(id, false);
          store.accounts().remove(id);
          changes.add(What.ACCOUNT, before.name(), before, null);
        });
    signOut(id);
  }

  /** Or nobody could let anybody in any more. */
  private void anotherAdministers(int id, boolean stays) {
    List<Integer> all = store.accounts().administrators();
    if (!stays && all.equals(List.of(id))) {
      throw Problem.field("role", "This is the only one left who may administer.");
    }
  }

  Likes likes(int id) {
    return store.accounts().likes(id).map(Likes::of).orElse(Likes.AT_FIRST);
  }

  Likes like(int id, LikesChange change) {
    change.check();
    store.accounts().putLikes(id, change.theme(), change.keys(), change.firstView(), change.zone());
    return likes(id);
  }

  /**
   * An own password: who knows the old one gives a new one, and is signed out elsewhere.
   *
   * @param byKey whether the old one need not be known, as a key let in
   */
  void password(int id, AccountView.NewPassword body, boolean byKey, String address) {
    AccountRow row = row(id);
    if (row.subject() != null) {
      throw Problem.field("password", "You come by single sign-on: your password is kept there.");
    }
    if (row.password() != null && !byKey) {
      Optional<Duration> wait = attempts.attempt(row.name(), address);
      if (wait.isPresent()) {
        throw Problem.slower("Too many attempts: wait " + (wait.get().toSeconds() + 1) + " s.");
      }
      if (!passwords.matches(body.old(), row.password())) {
        throw Problem.field("old", "This is not your password until now.");
      }
      attempts.succeeded(row.name(), address);
    }
    String encoded = passwords.fresh(body.password(), row.name());
    store.inOne(
        () -> {
          store.accounts().password(id, encoded);
          changes.add(What.ACCOUNT, row.name(), null, new Renewed(true));
        });
    signOut(id);
  }

  /** That a password was renewed. */
  private record Renewed(boolean password) {}

  /** Ends all sessions of an account. */
  void signOut(int id) {
    letIn.signOut(id);
  }

  AccountRow row(int id) {
    return store
        .accounts()
        .byId(id)
        .orElseThrow(() -> Problem.unknown("There is no account " + id + "."));
  }

  /**
   * In the history of changes a name is one person's, or one program's.
   *
   * @param id of the account whose name it may be already
   */
  void nameIsFree(int id, String name) {
    String own = name.strip();
    if (Stream.of(LetIn.PROGRAM, Actor.ITSELF).anyMatch(own::equalsIgnoreCase)) {
      throw Problem.field("name", "This name is Jam Jar's own.");
    }
    boolean person = store.accounts().byName(own).filter(other -> other.id() != id).isPresent();
    boolean program =
        store.accounts().tokens().stream().anyMatch(token -> token.name().equalsIgnoreCase(own));
    if (person || program) {
      throw Problem.field(
          "name", "There is " + (person ? "an account" : "a token") + " of this name already.");
    }
  }
}
