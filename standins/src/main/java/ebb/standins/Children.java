package ebb.standins;

import java.io.IOException;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/** Processes that end with the one that started them, even if nobody gets to stop them. */
public final class Children {
  private static final Set<Process> RUNNING = ConcurrentHashMap.newKeySet();

  static {
    Runtime.getRuntime()
        .addShutdownHook(new Thread(() -> RUNNING.forEach(Process::destroyForcibly)));
  }

  public static Process start(ProcessBuilder command) throws IOException {
    var process = command.start();
    RUNNING.add(process);
    process.onExit().thenAccept(RUNNING::remove);
    return process;
  }

  private Children() {}
}
