package ebb.bench;

import ebb.demo.Client;
import java.nio.file.Path;

/** Changes that are released and wait for their application to be let go on. */
final class Held {
  /** Not done within a second. */
  private static final int MANY = 2_000;

  /** Brings people in and releases what they get, and keeps it from being carried out. */
  static void release(Client ebb, Path people, String application) {
    ebb.done("applications", "pause", application, "--why=until all is released");
    var made = ebb.json("imports", "add", people.toString(), "--source=hr");
    var set = made.path("changeSet").asString();
    ebb.done("changes", "release", set, "--no-wait", "--reason=a benchmark");
    while (!ebb.json("changes", "show", set).path("state").asString().equals("released")) {
      sleep(200);
    }
  }

  /** Until all is done and recorded; asked as seldom as tells the end: asking is work as well. */
  static void awaitNone(Client ebb, String application) {
    for (var left = left(ebb, application); left > 0; left = left(ebb, application)) {
      sleep(left > MANY ? 1_000 : 100);
    }
  }

  private static long left(Client ebb, String application) {
    long left = 0;
    for (var one : ebb.json("execution", "show").path("applications")) {
      if (one.path("application").asString().equals(application)) {
        left = one.path("waiting").asLong() + one.path("underWay").asLong();
      }
    }
    return left;
  }

  static void sleep(long millis) {
    try {
      Thread.sleep(millis);
    } catch (InterruptedException e) {
      throw new IllegalStateException("Nobody interrupts a benchmark", e);
    }
  }

  private Held() {}
}
