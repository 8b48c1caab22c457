package jamjar.server.security;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.server.settings.Settings;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.time.Duration;
import java.util.Base64;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.util.unit.DataSize;

/** Stored passwords. */
class SecretBoxTest {
  private static final String HERE = "instance db.invalid:5432 checked";
  @TempDir Path data;

  @Test
  void a_password_opens_for_what_it_was_typed_for_and_for_nothing_else() throws Exception {
    SecretBox box = box();
    byte[] locked = box.lock("cherry", HERE);
    assertThat(new String(locked, StandardCharsets.ISO_8859_1)).doesNotContain("cherry");
    assertThat(box.open(locked, HERE)).isEqualTo("cherry");
    // as if it had been copied into another row, or the host been changed in the database
    assertThatThrownBy(() -> box.open(locked, "instance evil.invalid:5432 checked"))
        .hasMessageContaining("enter it again");
    assertThat(box().open(locked, HERE)).as("by the same key after a restart").isEqualTo("cherry");
    assertThat(
            PosixFilePermissions.toString(
                Files.getPosixFilePermissions(data.resolve("secret.key"))))
        .isEqualTo("rw-------");
  }

  @Test
  void what_an_earlier_version_stored_is_bound_once_and_then_opens_there_only() throws Exception {
    SecretBox box = box();
    byte[] nonce = new byte[12];
    byte[] sealed = sealed("stone", "", nonce);
    byte[] earlier = ByteBuffer.allocate(12 + sealed.length).put(nonce).put(sealed).array();
    assertThat(box.isAsNow(earlier)).isFalse();
    assertThatThrownBy(() -> box.open(earlier, HERE)).isInstanceOf(IllegalStateException.class);
    byte[] bound = box.renewed(earlier, HERE);
    assertThat(box.isAsNow(bound)).isTrue();
    assertThat(box.open(bound, HERE)).isEqualTo("stone");
    assertThat(box.renewed(new byte[] {1, 2, 3}, HERE)).as("what nobody can open stays").hasSize(3);
  }

  @Test
  void what_the_version_before_bound_opens_still() throws Exception {
    SecretBox box = box();
    byte[] nonce = new byte[12];
    byte[] sealed = sealed("plum", HERE, nonce);
    byte[] bound =
        ByteBuffer.allocate(15 + sealed.length)
            .put(new byte[] {'J', 'J', 2})
            .put(nonce)
            .put(sealed)
            .array();
    assertThat(box.open(bound, HERE)).isEqualTo("plum");
    assertThatThrownBy(() -> box.open(bound, "elsewhere")).hasMessageContaining("enter it again");
    assertThat(box.isAsNow(bound)).isFalse();
    assertThat(box.open(box.renewed(bound, HERE), HERE)).isEqualTo("plum");
  }

  @Test
  void the_key_is_changed_and_the_one_before_opens_until_it_is_forgotten() throws Exception {
    KeyRing ring = ring(KeySource.DATA_FOLDER);
    SecretBox box = new SecretBox(ring);
    byte[] earlier = box.lock("cherry", HERE);
    byte[] first = Files.readAllBytes(data.resolve("secret.key"));
    ring.change();
    assertThat(Files.readAllBytes(data.resolve("secret.key"))).isNotEqualTo(first);
    assertThat(box.open(earlier, HERE)).isEqualTo("cherry");
    assertThat(box.isAsNow(earlier)).isFalse();
    byte[] renewed = box.renewed(earlier, HERE);
    assertThat(box.isAsNow(renewed)).isTrue();
    // killed in between: after a start both open
    SecretBox started = box();
    assertThat(started.open(earlier, HERE)).isEqualTo("cherry");
    assertThat(started.open(renewed, HERE)).isEqualTo("cherry");
    ring.forgetBefore();
    assertThat(data.resolve("secret.key.before")).doesNotExist();
    assertThat(ring.isChanging()).isFalse();
    assertThatThrownBy(() -> box.open(earlier, HERE)).hasMessageContaining("enter it again");
    assertThat(box().open(renewed, HERE)).isEqualTo("cherry");
  }

  @Test
  void a_key_of_ones_own_takes_the_place_of_that_in_the_folder_and_is_changed_in_its_file()
      throws Exception {
    byte[] earlier = box().lock("cherry", HERE);
    Path mounted = data.resolve("mounted");
    Files.writeString(mounted, random() + "\n");
    KeyRing ring = ring(new KeySource("", mounted.toString(), "", ""));
    SecretBox box = new SecretBox(ring);
    byte[] renewed = box.renewed(earlier, HERE);
    ring.forgetBefore();
    assertThat(data.resolve("secret.key")).doesNotExist();
    assertThat(box.open(renewed, HERE)).isEqualTo("cherry");
    assertThatThrownBy(ring::change).hasMessageContaining("Put another key");
    String until = Files.readString(mounted);
    Files.writeString(mounted, "no key");
    assertThatThrownBy(ring::change).hasMessageContaining("32 bytes in Base64");
    Files.writeString(mounted, random());
    ring.change();
    assertThat(box.open(renewed, HERE)).isEqualTo("cherry");
    // or at a start, with the one until now beside it
    SecretBox started = new SecretBox(ring(new KeySource(random(), "", until.strip(), "")));
    assertThat(started.open(renewed, HERE)).isEqualTo("cherry");
    assertThatThrownBy(() -> ring(new KeySource("c2hvcnQ=", "", "", "")))
        .isInstanceOf(CannotStart.class)
        .hasMessageNotContaining("c2hvcnQ=");
  }

  /** As the cipher gives it, by the key in the folder. */
  private byte[] sealed(String secret, String place, byte[] nonce) throws Exception {
    Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
    cipher.init(
        Cipher.ENCRYPT_MODE,
        new SecretKeySpec(Files.readAllBytes(data.resolve("secret.key")), "AES"),
        new GCMParameterSpec(128, nonce));
    cipher.updateAAD(place.getBytes(StandardCharsets.UTF_8));
    return cipher.doFinal(secret.getBytes(StandardCharsets.UTF_8));
  }

  private static String random() {
    byte[] bytes = new byte[32];
    new SecureRandom().nextBytes(bytes);
    return Base64.getEncoder().encodeToString(bytes);
  }

  @Test
  void a_half_written_key_is_put_aside_and_not_fatal() throws Exception {
    Files.write(data.resolve("secret.key"), new byte[7]);
    SecretBox box = box();
    assertThat(box.open(box.lock("cherry", HERE), HERE)).isEqualTo("cherry");
    assertThat(data.resolve("secret.key.unusable")).exists();
    assertThat(data.resolve("secret.key")).hasSize(32);
  }

  private SecretBox box() throws Exception {
    return new SecretBox(ring(KeySource.DATA_FOLDER));
  }

  private KeyRing ring(KeySource source) throws Exception {
    Settings settings =
        new Settings(
            data,
            new Settings.Database("", "", ""),
            DataSize.ofMegabytes(1),
            Duration.ofSeconds(5));
    return new KeyRing(settings, source);
  }
}
