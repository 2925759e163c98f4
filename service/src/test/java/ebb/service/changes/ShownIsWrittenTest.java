package ebb.service.changes;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.person.PersonId;
import ebb.service.InProcess;
import ebb.service.Joiners;
import ebb.standins.MailHouse;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.TreeMap;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * Whatever is edited by hand, in any mix: what was shown is what is written, value by value and
 * nothing else, and taking it back leaves the accounts as they were.
 */
public class ShownIsWrittenTest {
  private static final int PEOPLE = 5;
  private static final int ROUNDS = 12;

  /** Values of an account in the mail house that follow from what is known of a person. */
  private static final Map<String, String> POINTERS =
      Map.of(
          "displayName", "/displayName",
          "title", "/title",
          "name.givenName", "/name/givenName",
          "name.familyName", "/name/familyName",
          "userName", "/userName",
          "active", "/active",
          "department", "/urn:ietf:params:scim:schemas:extension:enterprise:2.0:User/department");

  private final List<PersonId> people = new ArrayList<>();

  /** By the names with which they sign in. */
  private final List<String> accounts = new ArrayList<>();

  private MailHouse house;

  @BeforeClass
  void bringSome() throws Exception {
    house = InProcess.stage().mailHouse();
    for (int i = 0; i < PEOPLE; i++) {
      people.add(Joiners.join("title=Mate", "department=Deck"));
      accounts.add(Joiners.login(people.getLast()));
    }
  }

  /** Of each account each value, by pointer; what is not there is null. */
  private Map<String, String> values() {
    var values = new TreeMap<String, String>();
    for (var account : accounts) {
      var there = house.accounts().byName(account);
      POINTERS.forEach(
          (attribute, pointer) ->
              values.put(account + " " + attribute, there.at(pointer).asText(null)));
    }
    return values;
  }

  private String anyEdit(Random random, int round) {
    var person = people.get(random.nextInt(PEOPLE)).toString();
    var command =
        switch (random.nextInt(5)) {
          case 0 -> List.of("people", "edit", person, "title=Bosun " + round);
          case 1 -> List.of("people", "edit", person, "displayName=Ida the " + round + "th");
          case 2 -> List.of("people", "move", "Unit " + round, person, other(random));
          case 3 ->
              List.of(
                  "suspensions",
                  "start",
                  person,
                  "--reason=other",
                  "--note=a trial",
                  other(random));
          default ->
              List.of("people", "edit", person, "title=Mate " + round, "department=Quay " + round);
        };
    return InProcess.client().json(command.toArray(String[]::new)).path("id").asString();
  }

  private String other(Random random) {
    return people.get(random.nextInt(PEOPLE)).toString();
  }

  private static List<JsonNode> changes(String set) {
    return InProcess.client()
        .json("changes", "show", set, "--all")
        .path("items")
        .valueStream()
        .filter(one -> one.path("application").asString().equals("mail-house"))
        .toList();
  }

  /** What there would be if what is shown were written, and nothing else. */
  private Map<String, String> foretold(String set) {
    var values = values();
    for (var change : changes(set)) {
      var account = accounts.get(people.indexOf(new PersonId(change.path("person").asLong())));
      switch (change.path("kind").asString()) {
        case "suspend" -> values.put(account + " active", "false");
        case "open", "return" -> values.put(account + " active", "true");
        default -> {}
      }
      for (var edit : change.path("edits")) {
        var name = account + " " + edit.path("attribute").asString();
        if (values.containsKey(name)) {
          assertThat(edit.path("before").asString(null)).as(name).isEqualTo(values.get(name));
          values.put(name, edit.path("after").asString(null));
        }
      }
    }
    return values;
  }

  private static void same(
      Map<String, String> found, Map<String, String> expected, String when, Object... values) {
    var differing = new TreeMap<String, String>();
    expected.forEach(
        (name, value) -> {
          if (!Objects.equals(value, found.get(name))) {
            differing.put(name, "%s, not %s".formatted(found.get(name), value));
          }
        });
    assertThat(differing).as(when, values).isEmpty();
  }

  @Test
  public void whatIsShownIsWrittenAndTakingItBackLeavesAllAsItWas() throws Exception {
    var random = Chance.random(31);
    var differing = 0;
    for (int round = 0; round < ROUNDS; round++) {
      var before = values();
      var set = anyEdit(random, round);
      var foretold = foretold(set);
      same(values(), before, "nothing is written by showing it");

      InProcess.release(set);
      Carrying.out();
      same(values(), foretold, "round %d, set %s", round, set);
      differing += foretold.equals(before) ? 0 : 1;

      if (random.nextBoolean()) {
        var back = InProcess.client().json("changes", "take-back", set).path("id").asString();
        same(foretold(back), before, "what taking back shows");
        InProcess.release(back);
        Carrying.out();
        same(values(), before, "round %d, taken back", round);
      }
    }
    assertThat(differing).isGreaterThan(ROUNDS / 2);
  }
}
