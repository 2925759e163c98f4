package ebb.system;

import ebb.service.Ebb;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import org.springframework.context.ConfigurableApplicationContext;

/**
 * A process in which one service after another is started, each on data of its own. All but the
 * first find their classes loaded and compiled, which is most of what a start costs. It reads a
 * command a line: the settings of a service to be started, with tabs between, or "stop".
 */
final class Host {
  static final String STOP = "stop";
  static final String STOPPED = "Host: stopped";
  static final String FAILED = "Host: not started";

  public static void main(String[] arguments) throws IOException {
    var lines = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
    ConfigurableApplicationContext service = null;
    for (var line = lines.readLine(); line != null; line = lines.readLine()) {
      if (line.equals(STOP)) {
        service.close();
        System.out.println(STOPPED);
      } else {
        service = start(line.split("\t"));
      }
    }
    // Whoever gave the commands is gone.
    Runtime.getRuntime().halt(0);
  }

  private static ConfigurableApplicationContext start(String[] settings) {
    try {
      return Ebb.start(settings);
    } catch (RuntimeException e) {
      e.printStackTrace(System.out);
      System.out.println(FAILED);
      return null;
    }
  }

  private Host() {}
}
