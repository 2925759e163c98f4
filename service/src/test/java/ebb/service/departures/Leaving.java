package ebb.service.departures;

import ebb.core.person.PersonId;
import ebb.service.InProcess;
import ebb.service.changes.Carrying;
import ebb.store.Database;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import java.util.List;
import tools.jackson.databind.JsonNode;

/** What a running service does by itself about departures, called step by step. */
final class Leaving {
  /** More steps than any account takes. */
  private static final int MOST_STEPS = 40;

  /** Until there is nothing to do today. */
  static void goOn() throws InterruptedException {
    for (int i = 0; i < MOST_STEPS; i++) {
      InProcess.bean(Database.class).writeAll(InProcess.bean(Departures.class)::lookSoon);
      InProcess.bean(DepartureRunner.class).look();
      Carrying.out();
    }
  }

  static JsonNode of(PersonId leaver) {
    return InProcess.client()
        .json("departures", "list", "--limit=1000")
        .path("items")
        .valueStream()
        .filter(one -> one.path("person").asLong() == leaver.value())
        .reduce((_, last) -> last)
        .orElseThrow();
  }

  static String number(PersonId leaver) {
    return of(leaver).path("id").asString();
  }

  static JsonNode atTheHouse(PersonId leaver) {
    return of(leaver)
        .path("accounts")
        .valueStream()
        .filter(one -> one.path("application").asString().equals("mail-house"))
        .findFirst()
        .orElseThrow();
  }

  /** Names of the gates that are shut for their account in the mail house. */
  static List<String> shut(PersonId leaver) {
    return atTheHouse(leaver)
        .path("gates")
        .valueStream()
        .filter(gate -> !List.of("open", "waived").contains(gate.path("state").asString()))
        .map(gate -> gate.path("name").asString())
        .toList();
  }

  static DepartureAccount part(PersonId leaver) {
    var id = atTheHouse(leaver).path("id").asLong();
    return InProcess.bean(Database.class)
        .read(session -> InProcess.bean(Departures.class).account(session, id))
        .orElseThrow();
  }

  static String journal(PersonId person) {
    return InProcess.client().done("journal", "list", "--person=" + person, "--limit=1000");
  }

  private Leaving() {}
}
