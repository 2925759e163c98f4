package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.SearchResultEntry;
import ebb.core.application.ObservedGroup;
import ebb.core.application.Reading;
import ebb.core.application.Sightings;
import ebb.core.application.Unreachable;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Collectors;

/**
 * Reads a directory: by content sync (RFC 4533) what changed since, where it offers that; else by
 * modifyTimestamp, and the keys of all to find who is gone; else all.
 */
final class LdapReading {
  private static final String BY_SYNC = "sync ";
  private static final String BY_TIME = "time ";
  private static final int AT_ONCE = 50;

  /** Of a group with more members than these, all keys are read rather than each looked up. */
  private static final int LOOKED_UP = 500;

  private final Directory directory;
  private final LdapSettings settings;
  private final Entries entries;
  private final LdapGroups groups;
  private final Sightings to;
  private final Known known;
  private String latest = "";

  LdapReading(Directory directory, Entries entries, LdapGroups groups, Sightings to) {
    this.directory = directory;
    this.settings = directory.settings();
    this.entries = entries;
    this.groups = groups;
    this.to = to;
    this.known = new Known(directory);
  }

  Reading read(String since) throws Unreachable {
    var sync = new ContentSync(directory);
    if (since != null && since.startsWith(BY_SYNC)) {
      var cookie = since.substring(BY_SYNC.length());
      var done = changed(sync, cookie);
      if (done != null) {
        return done;
      }
    }
    if (since != null && since.startsWith(BY_TIME)) {
      return since(since.substring(BY_TIME.length()));
    }
    return all(sync);
  }

  private Reading all(ContentSync sync) throws Unreachable {
    // Before reading: what changes meanwhile comes again.
    var cookie = sync.now();
    var memberships = groups.all();
    for (var base : settings.bases()) {
      var page = new Page(memberships);
      directory.pages(base, entries.person(), page::add, page::emit, entries.read());
    }
    memberships.observed(entries, known).forEach(to::group);
    return new Reading(cookie.map(BY_SYNC::concat).orElseGet(this::byTime), true);
  }

  /** Null where no entry says when it was changed. */
  private String byTime() {
    return latest.isEmpty() ? null : BY_TIME + latest;
  }

  /** Entries of one page, passed on together: what they refer to is often among them. */
  private final class Page {
    private final LdapGroups.Memberships memberships;
    private final List<SearchResultEntry> page = new ArrayList<>();

    Page(LdapGroups.Memberships memberships) {
      this.memberships = memberships;
    }

    void add(SearchResultEntry entry) {
      known.add(entry);
      page.add(entry);
    }

    void emit() throws Unreachable {
      for (var entry : page) {
        pass(entry, memberships.take(entry.getDN()));
      }
      page.clear();
    }
  }

  private void pass(SearchResultEntry entry, SortedSet<String> groups) throws Unreachable {
    var changedAt = entry.getAttributeValue(Entries.CHANGED_AT);
    if (changedAt != null && changedAt.compareTo(latest) > 0) {
      latest = changedAt;
    }
    to.account(entries.observed(entry, groups, known));
  }

  /** What changed since by content sync; null if all has to be read. */
  private Reading changed(ContentSync sync, String cookie) throws Unreachable {
    var people = new ContentSync.Changes();
    for (var base : settings.bases()) {
      if (!sync.since(cookie, base, entries.person(), people, entries.read())) {
        return null;
      }
    }
    var ofGroups = new ContentSync.Changes();
    if (groups.areKept()
        && !sync.since(
            cookie, settings.groups(), LdapGroups.isGroup(), ofGroups, LdapGroups.READ)) {
      return null;
    }
    if (!people.isClear() || (people.isWithPresent() && settings.bases().size() > 1)) {
      return null;
    }
    pass(people.changed());
    people.present().forEach(to::unchanged);
    people.gone().forEach(to::gone);
    passGroups(ofGroups.changed());
    ofGroups.present().stream()
        .flatMap(id -> groups.idsOf(id).stream())
        .forEach(to::groupUnchanged);
    ofGroups.gone().stream().flatMap(id -> groups.idsOf(id).stream()).forEach(to::groupGone);
    var next = people.cookie() == null ? cookie : people.cookie();
    return new Reading(BY_SYNC + next, people.isWithPresent(), ofGroups.isWithPresent());
  }

  private Reading since(String time) throws Unreachable {
    latest = time;
    var newer = Filter.createGreaterOrEqualFilter(Entries.CHANGED_AT, time);
    var changed = new LinkedHashMap<String, SearchResultEntry>();
    for (var base : settings.bases()) {
      directory.pages(
          base,
          Filter.createANDFilter(entries.person(), newer),
          entry -> changed.put(entry.getAttributeValue(Entries.ID), entry),
          entries.read());
    }
    for (var base : settings.bases()) {
      directory.pages(
          base,
          entries.person(),
          entry -> {
            var id = entry.getAttributeValue(Entries.ID);
            if (!changed.containsKey(id)) {
              to.unchanged(id);
            }
          },
          Entries.ID);
    }
    pass(List.copyOf(changed.values()));
    if (groups.areKept()) {
      var newGroups = new ArrayList<SearchResultEntry>();
      directory.pages(
          settings.groups(),
          Filter.createANDFilter(LdapGroups.isGroup(), newer),
          newGroups::add,
          LdapGroups.READ);
      passGroups(newGroups);
      passUnchangedGroups(newGroups);
    }
    return new Reading(byTime(), true);
  }

  /** Accounts that changed, with the groups each is in. */
  private void pass(List<SearchResultEntry> changed) throws Unreachable {
    changed.forEach(known::add);
    for (int from = 0; from < changed.size(); from += AT_ONCE) {
      var part = changed.subList(from, Math.min(from + AT_ONCE, changed.size()));
      var memberships = groups.of(part.stream().map(SearchResultEntry::getDN).toList());
      for (var entry : part) {
        pass(entry, memberships.take(entry.getDN()));
      }
    }
  }

  private void passUnchangedGroups(List<SearchResultEntry> changed) throws Unreachable {
    var changedIds =
        changed.stream()
            .map(group -> group.getAttributeValue(Entries.ID))
            .collect(Collectors.toSet());
    directory.pages(
        settings.groups(),
        LdapGroups.isGroup(),
        group -> {
          var id = group.getAttributeValue(Entries.ID);
          if (!changedIds.contains(id)) {
            groups.idsOf(id).forEach(to::groupUnchanged);
          }
        },
        Entries.ID);
  }

  private void passGroups(List<SearchResultEntry> changed) throws Unreachable {
    for (var entry : changed) {
      for (var group : groups.shown(entry)) {
        passGroup(group);
      }
    }
  }

  private void passGroup(LdapGroups.Shown group) throws Unreachable {
    var ids = ids(group.members());
    var accounts = new HashSet<String>();
    var others = new TreeSet<String>();
    var inner = new TreeSet<String>();
    for (var member : group.members()) {
      var id = ids.get(Entries.normal(member));
      if (id != null) {
        accounts.add(id);
      } else if (!groups.isPlaceholder(member)) {
        groups.nameOf(member).ifPresentOrElse(inner::add, () -> others.add(member));
      }
    }
    to.group(
        new ObservedGroup(
            group.id(), group.name(), entries.ids(group.owners(), known), inner, others));
    to.members(group.name(), accounts);
  }

  /** Ids of those members that are people's entries, by normalised name. */
  private Map<String, String> ids(List<String> members) throws Unreachable {
    var ids = new HashMap<String, String>();
    if (members.size() > LOOKED_UP) {
      Set<String> wanted = new HashSet<>();
      members.forEach(member -> wanted.add(Entries.normal(member)));
      for (var base : settings.bases()) {
        directory.pages(
            base,
            entries.person(),
            entry -> {
              var normal = Entries.normal(entry.getDN());
              if (wanted.contains(normal)) {
                ids.put(normal, entry.getAttributeValue(Entries.ID));
              }
            },
            Entries.ID);
      }
    } else {
      for (var member : members) {
        entries.person(member).ifPresent(id -> ids.put(Entries.normal(member), id));
      }
    }
    return ids;
  }
}
