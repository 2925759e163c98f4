package ebb.service.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.service.InProcess;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.testng.annotations.Test;

/** A file that is UTF-8 in some places only is read in no encoding that nobody chose. */
public class MixedEncodingTest {
  @Test
  public void nothingIsReadUntilSomebodySaysWhichEncodingItIs() throws IOException {
    var file = Files.createDirectories(Path.of("target/mixed")).resolve("mixed.csv");
    var bytes = new ByteArrayOutputStream();
    bytes.writeBytes(
        "No,Given,Family\nX1,Karl,M\u00FCllerx\nX2,J".getBytes(StandardCharsets.UTF_8));
    bytes.write(0xF8);
    bytes.writeBytes("rn,Nessx\n".getBytes(StandardCharsets.UTF_8));
    Files.write(file, bytes.toByteArray());
    var before = imports();

    var refused = InProcess.client().run("imports", "add", file.toString());
    assertThat(refused.exitCode()).isEqualTo(1);
    assertThat(refused.err()).contains("line 3, column 5", "M\u00FCllerx", "M\u00C3\u00BCllerx");
    var asUtf8 = InProcess.client().run("imports", "add", file.toString(), "--charset=utf8");
    assertThat(asUtf8.exitCode()).isEqualTo(1);
    assertThat(asUtf8.err()).contains("line 3, column 5");
    assertThat(imports()).as("nothing was kept").isEqualTo(before);

    var said = InProcess.client().json("imports", "add", file.toString(), "--charset=Cp1252");
    assertThat(said.path("format").asString()).contains("windows-1252");
    assertThat(InProcess.client().done("imports", "show", said.path("id").asString()))
        .as("the columns can be looked at, and mapped")
        .contains("mixed.csv");
  }

  private static int imports() {
    return InProcess.client().json("imports", "list", "--limit=1000").path("items").size();
  }
}
