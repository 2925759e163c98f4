package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import org.testng.annotations.Test;

/** How Ebb is set up is carried in files from one installation to another. */
public class ConfigurationTest extends WithService {
  @Test
  public void anEmptyInstallationIsSetUpByTheFilesOfAnother() throws Exception {
    client.done("limits", "set", "missing", "0.3");
    lists.crew("crew", 70);
    client.done("departures", "procedures", "seasonal", "--hand-over=1", "--delete=10");
    var folder = stage.home().resolve("carried");
    client.done("config", "export", folder.toString());

    try (var empty = Services.start()) {
      var other = new Client(empty.url(), empty.token());
      var said = other.run("config", "load", folder.toString());
      assertThat(said.exitCode()).as(said.out() + said.err()).isZero();
      // Rules wait for their release, there as everywhere.
      for (var set : other.json("changes", "list", "--state=shown").path("items")) {
        other.done("changes", "release", set.path("id").asString(), "--reason=a new installation");
      }
      other.settle();

      assertThat(other.done("config", "check", folder.toString()))
          .contains("All is set up as the files say");
      var back = empty.home().resolve("carried");
      other.done("config", "export", back.toString());
      assertThat(files(back)).isEqualTo(files(folder));
    }
  }

  private static TreeMap<String, String> files(Path folder) throws Exception {
    var texts = new TreeMap<String, String>();
    List<Path> all;
    try (var files = Files.walk(folder)) {
      all = new ArrayList<>(files.filter(Files::isRegularFile).toList());
    }
    for (var file : all) {
      texts.put(folder.relativize(file).toString(), Files.readString(file));
    }
    return texts;
  }
}
