package ebb.service.operators;

import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/** Makes the first administrator on an empty database, and shows the token once. */
@Component
final class FirstStart {
  private final Tokens tokens;
  private final Environment environment;

  FirstStart(Tokens tokens, Environment environment) {
    this.tokens = tokens;
    this.environment = environment;
  }

  @EventListener(ApplicationReadyEvent.class)
  void ready() {
    var address = "http://127.0.0.1:" + environment.getProperty("local.server.port");
    tokens
        .makeFirst()
        .ifPresent(
            made ->
                System.out.printf(
                    "First start: operator %s was made.%nToken, shown only now: %s%n",
                    made.token().operator(), made.text()));
    System.out.printf("Ebb is ready at %s%n", address);
  }
}
