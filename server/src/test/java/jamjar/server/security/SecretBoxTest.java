package jamjar.server.security;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.server.settings.Settings;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
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
    Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
    cipher.init(
        Cipher.ENCRYPT_MODE,
        new SecretKeySpec(Files.readAllBytes(data.resolve("secret.key")), "AES"),
        new GCMParameterSpec(128, nonce));
    byte[] sealed = cipher.doFinal("stone".getBytes(StandardCharsets.UTF_8));
    byte[] earlier = ByteBuffer.allocate(12 + sealed.length).put(nonce).put(sealed).array();
    assertThat(box.isBound(earlier)).isFalse();
    assertThatThrownBy(() -> box.open(earlier, HERE)).isInstanceOf(IllegalStateException.class);
    byte[] bound = box.bind(earlier, HERE);
    assertThat(box.isBound(bound)).isTrue();
    assertThat(box.open(bound, HERE)).isEqualTo("stone");
    assertThat(box.bind(new byte[] {1, 2, 3}, HERE)).as("what nobody can open stays").hasSize(3);
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
    return new SecretBox(
        new Settings(
            data,
            new Settings.Database("", "", ""),
            DataSize.ofMegabytes(1),
            Duration.ofSeconds(5)));
  }
}
