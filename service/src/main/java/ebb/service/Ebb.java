package ebb.service;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.context.ConfigurableApplicationContext;

/** Starts the service. */
@SpringBootApplication
public class Ebb {
  public static void main(String[] arguments) {
    start(arguments);
  }

  /**
   * Starts a service in this process and returns when it is ready. Closing what is returned stops
   * it; another may be started then.
   *
   * @param arguments settings, as in --ebb.home=/var/lib/ebb
   */
  public static ConfigurableApplicationContext start(String... arguments) {
    // Looking every value up in a cache of all takes a fifth of the time of reading a million rows.
    System.setProperty("h2.objectCache", "false");
    return SpringApplication.run(Ebb.class, arguments);
  }
}
