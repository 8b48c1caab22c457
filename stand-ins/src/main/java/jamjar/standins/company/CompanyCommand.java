package jamjar.standins.company;

import jamjar.standins.company.CompanySignOn.Person;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.List;
import java.util.logging.Level;
import java.util.logging.Logger;

/** The company's sign-on as one starts it by hand: secrets are made at each start. */
public final class CompanyCommand {
  private static final String CLIENT = "jamjar";
  private static final int BYTES = 18;
  private final Path folder;
  private final PrintStream out;

  /**
   * @param folder where the file with the client's secret is written
   */
  public CompanyCommand(Path folder, PrintStream out) {
    this.folder = folder;
    this.out = out;
  }

  private static String random() {
    byte[] bytes = new byte[BYTES];
    new SecureRandom().nextBytes(bytes);
    return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
  }

  /**
   * Runs until it is stopped.
   *
   * @param of the address of Jam Jar
   */
  public int run(int port, String of) throws Exception {
    Logger.getLogger("org.apache").setLevel(Level.WARNING);
    String secret = random();
    Path file = written(secret);
    List<Person> people =
        List.of(
            new Person("hedvig", random(), List.of("database administrators")),
            new Person("olaf", random(), List.of("database administrators", "southmole")),
            new Person("runa", random(), List.of("stewards")));
    CompanySignOn company = new CompanySignOn(port, CLIENT, secret, people);
    company.sendsBackTo(of.replaceFirst("/+$", "") + "/signed-on");
    Runtime.getRuntime().addShutdownHook(new Thread(() -> stop(company)));
    out.println("issuer " + company.issuer());
    out.println("client " + CLIENT + ", its secret is in " + file);
    for (Person person : people) {
      out.printf("%s, password %s, in %s%n", person.name(), person.password(), person.groups());
    }
    Thread.currentThread().join();
    return 0;
  }

  private Path written(String secret) throws IOException {
    Files.createDirectories(folder);
    Path file = folder.resolve("sign-on.secret");
    Files.deleteIfExists(file);
    Files.createFile(
        file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    return Files.writeString(file, secret);
  }

  private static void stop(CompanySignOn company) {
    try {
      company.close();
    } catch (Exception e) {
      // it ends with its process
    }
  }
}
