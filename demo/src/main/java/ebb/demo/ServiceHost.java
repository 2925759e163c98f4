package ebb.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** Where the service of a stage runs. */
public interface ServiceHost {
  /**
   * Starts the service and returns when it is ready.
   *
   * @param arguments its settings, as in --server.port=8440
   * @param log where what it says is appended
   * @return the link with which the first administrator chooses a password, if it shows one
   * @throws IllegalStateException if it does not start
   */
  Optional<String> start(List<String> arguments, Path log) throws IOException, InterruptedException;

  /** Ends it at once, as a power switch would; does nothing if none runs. */
  void kill() throws InterruptedException;

  /** Stops it, and gives back what it took; does nothing if none runs. */
  void end() throws InterruptedException;
}
