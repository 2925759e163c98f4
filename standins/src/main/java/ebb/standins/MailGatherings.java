package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * Meetings and shared folders that were made with everybody of a group: who came into the group
 * since is not in them, who left it still is.
 */
public final class MailGatherings {
  private record Gathering(String id, String group, String kind, String name, Set<String> named) {}

  private final MailAccounts accounts;
  private final List<Gathering> made = new ArrayList<>();

  MailGatherings(MailAccounts accounts) {
    this.accounts = accounts;
  }

  /** Makes one with those who are in the group now. */
  public synchronized void make(String kind, String name, String group) {
    var id = "gathering-" + (made.size() + 1);
    made.add(
        new Gathering(id, group, kind, name, new LinkedHashSet<>(accounts.membersOfGroup(group))));
  }

  /** Whom the one of this name names. */
  public synchronized Set<String> named(String name) {
    return made.stream()
        .filter(one -> one.name().equals(name))
        .findFirst()
        .map(one -> Set.copyOf(one.named()))
        .orElseThrow();
  }

  synchronized JsonNode page(String group, int limit) {
    var answer = MailHouse.JSON.createObjectNode();
    var items = answer.putArray("items");
    made.stream()
        .filter(one -> one.group().equals(group))
        .limit(limit)
        .forEach(one -> items.add(item(one)));
    return answer;
  }

  private static ObjectNode item(Gathering one) {
    return MailHouse.JSON
        .createObjectNode()
        .put("id", one.id())
        .put("kind", one.kind())
        .put("name", one.name());
  }

  private record Stray(Gathering gathering, String account, boolean isNamed) {}

  /**
   * @param only of one account; null for all
   */
  synchronized JsonNode strays(String group, String only, int after, int limit) {
    var members = accounts.membersOfGroup(group);
    var all = new ArrayList<Stray>();
    for (var one : made) {
      if (one.group().equals(group)) {
        var either = new TreeSet<>(members);
        either.addAll(one.named());
        either.stream()
            .filter(account -> only == null || only.equals(account))
            .filter(account -> members.contains(account) != one.named().contains(account))
            .forEach(account -> all.add(new Stray(one, account, one.named().contains(account))));
      }
    }
    var answer = MailHouse.JSON.createObjectNode();
    var strays = answer.putArray("strays");
    for (var stray : all.stream().skip(after).limit(limit).toList()) {
      var node = strays.addObject().put("account", stray.account()).put("named", stray.isNamed());
      node.set("item", item(stray.gathering()));
    }
    if (after + limit < all.size()) {
      answer.put("next", after + limit);
    }
    return answer;
  }

  /** Whether there is such an item, which then names the account, or does not. */
  synchronized boolean name(String group, String item, String account, boolean isNamed) {
    var found =
        made.stream().filter(one -> one.group().equals(group) && one.id().equals(item)).findFirst();
    found.ifPresent(
        one -> {
          if (isNamed) {
            one.named().add(account);
          } else {
            one.named().remove(account);
          }
        });
    return found.isPresent();
  }
}
