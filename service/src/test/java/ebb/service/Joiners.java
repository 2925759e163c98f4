package ebb.service;

import ebb.core.person.PersonId;
import ebb.service.changes.Carrying;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** People who join for a test; nobody is like anybody else. */
public final class Joiners {
  private static int made;

  /** Adds an employee, who has an account in each application after that. */
  public static PersonId join(String... values) throws InterruptedException {
    var family = family();
    var command =
        new ArrayList<>(
            List.of(
                "people",
                "add",
                "name.givenName=Ida",
                "name.familyName=" + family,
                "userType=employee"));
    command.addAll(List.of(values));
    InProcess.released(command.toArray(String[]::new));
    Carrying.out();
    return new PersonId(
        InProcess.client()
            .json("people", "list", "--filter=name.familyName eq \"" + family + "\"")
            .at("/items/0/id")
            .asLong());
  }

  private static synchronized String family() {
    var random = new Random(++made * 7919L);
    var letters = new StringBuilder("J");
    for (int i = 0; i < 11; i++) {
      letters.append((char) ('a' + random.nextInt(26)));
    }
    return letters.toString();
  }

  public static void edit(PersonId person, String... values) throws InterruptedException {
    var command = new ArrayList<>(List.of("people", "edit", person.toString()));
    command.addAll(List.of(values));
    InProcess.released(command.toArray(String[]::new));
    Carrying.out();
  }

  /** Whose last day was yesterday. */
  public static void leave(PersonId person, PersonId head) throws InterruptedException {
    edit(person, "endDate=" + today().minusDays(1), "manager=" + head);
  }

  public static LocalDate today() {
    return InProcess.client().today();
  }

  public static void passDays(int days) {
    InProcess.client().done("clock", "--days=" + days);
  }

  public static String login(PersonId person) {
    return InProcess.client().json("people", "show", person.toString()).path("login").asString();
  }

  /** The id of somebody's account in the mail house; null if there is none. */
  public static String account(PersonId person) {
    var found = InProcess.stage().mailHouse().accounts().byName(login(person));
    return found == null ? null : found.path("id").asText();
  }

  public static boolean isUsable(PersonId person) {
    var found = InProcess.stage().mailHouse().accounts().byName(login(person));
    return found != null && found.path("active").asBoolean();
  }

  private Joiners() {}
}
