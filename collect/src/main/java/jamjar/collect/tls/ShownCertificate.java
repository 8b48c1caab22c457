package jamjar.collect.tls;

import jamjar.collect.CheckResult;
import jamjar.collect.CheckResult.Outcome;
import jamjar.collect.Target;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.cert.CertificateException;
import java.security.cert.CertificateParsingException;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.net.ssl.TrustManager;
import javax.net.ssl.X509TrustManager;

/**
 * What is to be said of the certificate that a target shows: that it has run out, is of another
 * name, or comes from an authority that is not known, each on its own.
 *
 * @param chain its own certificate first
 */
public record ShownCertificate(List<X509Certificate> chain) {
  private static final String CHECK = "Certificate";

  private static final int SOON_DAYS = 30;
  private static final int DNS_NAME = 2;
  private static final int ADDRESS = 7;
  private static final Pattern COMMON_NAME = Pattern.compile("(?:^|,)CN=([^,]+)");

  /** When it runs out; whether the others of the chain are still good is a matter of trust. */
  Instant until() {
    return chain.get(0).getNotAfter().toInstant();
  }

  /**
   * Holds it against what the person wants.
   *
   * @param target its host, its trusted authority, and how strictly it is looked at
   */
  public CheckResult check(Target target, Instant now) {
    X509Certificate own = chain.get(0);
    boolean strict = target.tls() == Target.Tls.CHECKED;
    Outcome bad = strict ? Outcome.FAIL : Outcome.WARN;
    if (now.isAfter(until())) {
      return new CheckResult(
          CHECK,
          bad,
          "expired: it was valid until " + day(until()),
          "a certificate that is valid today",
          "Have it renewed there: an engine reads the new one when its settings are loaded again, a"
              + " JVM when it starts.",
          "",
          false);
    }
    if (now.isBefore(own.getNotBefore().toInstant())) {
      return new CheckResult(
          CHECK,
          bad,
          "not valid yet: it is valid from " + day(own.getNotBefore().toInstant()),
          "a certificate that is valid today",
          "Compare the clocks of both machines first: one of them may be wrong.",
          "",
          false);
    }
    if (!names(target.host())) {
      return new CheckResult(
          CHECK,
          bad,
          "of another name: it is of " + String.join(", ", names()),
          "the name " + target.host(),
          "Use a name here that it carries, or have one issued for " + target.host() + ".",
          "",
          false);
    }
    if (strict && !trusted(target.ca())) {
      return new CheckResult(
          CHECK,
          Outcome.FAIL,
          "from an unknown issuer: " + issuer() + ", SHA-256 " + fingerprint(),
          "an authority that is trusted here",
          "Compare the fingerprint with the one known there, then paste the certificate of the"
              + " authority below, in PEM.",
          "",
          false);
    }
    long days = Duration.between(now, until()).toDays();
    String valid = "of " + String.join(", ", names()) + ", valid until " + day(until());
    if (days < SOON_DAYS) {
      return new CheckResult(
          CHECK,
          Outcome.WARN,
          valid + ": " + days + " days from now",
          "more than " + SOON_DAYS + " days",
          "Have it renewed there in time.",
          "",
          false);
    }
    return CheckResult.pass(CHECK, valid);
  }

  /** Whether it carries a name, in full or by a star for its first part. */
  boolean names(String host) {
    return names().stream().anyMatch(name -> same(name, host));
  }

  private static boolean same(String name, String host) {
    String lower = name.toLowerCase(Locale.ROOT);
    String wanted = host.toLowerCase(Locale.ROOT);
    if (lower.startsWith("*.")) {
      int dot = wanted.indexOf('.');
      return dot > 0 && wanted.substring(dot).equals(lower.substring(1));
    }
    return lower.equals(wanted) || address(lower) && address(wanted) && sameAddress(lower, wanted);
  }

  private static boolean address(String text) {
    return text.contains(":") || text.matches("[0-9.]+");
  }

  private static boolean sameAddress(String a, String b) {
    try {
      return InetAddress.getByName(a).equals(InetAddress.getByName(b));
    } catch (UnknownHostException e) {
      return false;
    }
  }

  /** The names and addresses that it is of; its common name only where it has no others. */
  List<String> names() {
    try {
      Collection<List<?>> alternatives = chain.get(0).getSubjectAlternativeNames();
      List<String> names =
          Objects.requireNonNullElse(alternatives, List.<List<?>>of()).stream()
              .filter(n -> n.get(0).equals(DNS_NAME) || n.get(0).equals(ADDRESS))
              .map(n -> n.get(1).toString())
              .toList();
      if (!names.isEmpty()) {
        return names;
      }
    } catch (CertificateParsingException e) {
      return List.of();
    }
    Matcher matcher = COMMON_NAME.matcher(chain.get(0).getSubjectX500Principal().getName());
    return matcher.find() ? List.of(matcher.group(1)) : List.of();
  }

  private boolean trusted(String ca) {
    try {
      for (TrustManager manager : Trust.managers(ca)) {
        if (manager instanceof X509TrustManager x509) {
          x509.checkServerTrusted(chain.toArray(X509Certificate[]::new), "UNKNOWN");
        }
      }
      return true;
    } catch (CertificateException | IOException e) {
      return false;
    }
  }

  private X509Certificate last() {
    return chain.get(chain.size() - 1);
  }

  private String issuer() {
    String issuer = last().getIssuerX500Principal().getName();
    return issuer.equals(chain.get(0).getSubjectX500Principal().getName())
        ? issuer + " (it signed itself)"
        : issuer;
  }

  private String fingerprint() {
    try {
      byte[] digest = MessageDigest.getInstance("SHA-256").digest(last().getEncoded());
      return HexFormat.ofDelimiter(":").withUpperCase().formatHex(digest);
    } catch (GeneralSecurityException e) {
      return "unknown";
    }
  }

  private static String day(Instant instant) {
    return instant.atZone(ZoneOffset.UTC).toLocalDate().toString();
  }
}
