package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Base64;
import org.testng.annotations.Test;

public class SecretBoxTest {
  @Test
  public void opensWhatItSealedAndNothingElse() {
    var box = new SecretBox(SecretBox.random(32));
    var sealed = box.seal("a secret");

    assertThat(box.open(sealed)).isEqualTo("a secret");
    assertThat(box.seal("a secret")).as("never the same twice").isNotEqualTo(sealed);
    assertThatThrownBy(() -> new SecretBox(SecretBox.random(32)).open(sealed))
        .isInstanceOf(IllegalStateException.class);
  }

  @Test
  public void noticesWhatWasAltered() {
    var box = new SecretBox(SecretBox.random(32));
    var bytes = Base64.getDecoder().decode(box.seal("a secret"));
    bytes[bytes.length - 1] ^= 1;
    var altered = Base64.getEncoder().encodeToString(bytes);

    assertThatThrownBy(() -> box.open(altered)).isInstanceOf(IllegalStateException.class);
  }

  @Test
  public void itsKeyFileIsMadeOnceAndForItsOwnerAlone() throws IOException {
    var file =
        Files.createTempDirectory(Files.createDirectories(Path.of("target/keys")), "home")
            .resolve("secret.key");

    var sealed = SecretBox.ofFile(file).seal("a secret");

    assertThat(SecretBox.ofFile(file).open(sealed)).isEqualTo("a secret");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");
  }

  @Test
  public void aNewKeySealsAndTheOldOneOpensUntilItIsDropped() throws IOException {
    var file = Files.createTempDirectory(Path.of("target"), "box").resolve("secret.key");
    var box = SecretBox.ofFile(file);
    var other = SecretBox.ofFile(file);
    var before = box.seal("before");

    box.addKey();
    var after = box.seal("after");

    assertThat(box.open(before)).isEqualTo("before");
    assertThat(other.open(after)).as("another process looks at the file again").isEqualTo("after");
    box.dropOldKeys();
    assertThat(box.open(after)).isEqualTo("after");
    assertThatThrownBy(() -> box.open(before)).isInstanceOf(IllegalStateException.class);
    assertThat(Files.readAllLines(file)).hasSize(1);
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");
  }
}
