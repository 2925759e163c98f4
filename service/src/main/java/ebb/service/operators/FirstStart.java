package ebb.service.operators;

import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/**
 * Says where Ebb is. Where nobody can sign in yet, and for somebody who cannot any more, it shows a
 * one-time link too.
 */
@Component
final class FirstStart {
  private final OperatorBook book;
  private final Environment environment;
  private final String linkFor;

  FirstStart(
      OperatorBook book, Environment environment, @Value("${ebb.link-for:}") String linkFor) {
    this.book = book;
    this.environment = environment;
    this.linkFor = linkFor;
  }

  @EventListener(ApplicationReadyEvent.class)
  void ready() {
    var address = "http://127.0.0.1:" + environment.getProperty("local.server.port");
    book.first().ifPresent(name -> show(name, address));
    if (!linkFor.isBlank()) {
      show(linkFor, address);
    }
    System.out.printf("Ebb is ready at %s%n", address);
  }

  private void show(String name, String address) {
    var link = book.link(name, address, "ebb");
    System.out.printf(
        """
        Choose a password for the operator %s. This link is shown only now, and is good once, for a day:
        Link: %s
        """,
        name, link.address());
  }
}
