package jamjar.collect;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.util.Base64;

/**
 * A key with a certificate that signs itself, made by the JDK's own tool.
 *
 * @param store a PKCS 12 file
 * @param pem the certificate
 */
public record SelfSigned(Path store, String pem) {
  public static final String PASSWORD = "changeit";
  public static final String ALIAS = "e";

  /**
   * @param name the DNS name that it is of
   */
  public static SelfSigned of(String name, Path folder) throws Exception {
    return of(name, folder, "-0d", 90);
  }

  /**
   * @param from when it begins to be valid, from now, such as {@code -10d}
   * @param days for how long it is valid
   */
  public static SelfSigned of(String name, Path folder, String from, int days) throws Exception {
    Path store = folder.resolve("keys.p12");
    Files.deleteIfExists(store);
    Process tool =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
                "-genkeypair",
                "-alias",
                ALIAS,
                "-keyalg",
                "RSA",
                "-keysize",
                "2048",
                "-dname",
                "CN=" + name,
                "-ext",
                "san=dns:" + name,
                "-ext",
                "bc=ca:true",
                "-startdate",
                from,
                "-validity",
                Integer.toString(days),
                "-storetype",
                "PKCS12",
                "-keystore",
                store.toString(),
                "-storepass",
                PASSWORD)
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    if (tool.waitFor() != 0) {
      throw new IOException("keytool made no key");
    }
    KeyStore keys = KeyStore.getInstance(store.toFile(), PASSWORD.toCharArray());
    String pem = pem("CERTIFICATE", keys.getCertificate(ALIAS).getEncoded());
    Files.writeString(folder.resolve("certificate.pem"), pem);
    return new SelfSigned(store, pem);
  }

  public static String pem(String what, byte[] bytes) {
    return "-----BEGIN "
        + what
        + "-----\n"
        + Base64.getMimeEncoder(64, new byte[] {'\n'}).encodeToString(bytes)
        + "\n-----END "
        + what
        + "-----\n";
  }
}
