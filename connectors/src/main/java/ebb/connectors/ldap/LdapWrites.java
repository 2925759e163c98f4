package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.AddRequest;
import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Control;
import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.DeleteRequest;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.LDAPResult;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.ModifyDNRequest;
import com.unboundid.ldap.sdk.ModifyRequest;
import com.unboundid.ldap.sdk.RDN;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.controls.AssertionRequestControl;
import com.unboundid.ldap.sdk.controls.PostReadRequestControl;
import com.unboundid.ldap.sdk.controls.PostReadResponseControl;
import ebb.core.application.Instruction;
import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Stream;

/** Writes to the entries of people. */
final class LdapWrites {
  private final Directory directory;
  private final LdapSettings settings;
  private final Entries entries;
  private final LdapGroups groups;
  private final LdapOutcomes outcomes;
  private final Following following;
  private final Passwords passwords;

  LdapWrites(Directory directory, Entries entries, LdapGroups groups, LdapOutcomes outcomes) {
    this.directory = directory;
    this.settings = directory.settings();
    this.entries = entries;
    this.groups = groups;
    this.outcomes = outcomes;
    this.following = new Following(directory, entries, groups, outcomes);
    this.passwords = new Passwords(directory, outcomes);
  }

  Outcome create(Instruction.Create create) throws LDAPException, Unreachable {
    var values = new LinkedHashMap<>(create.values());
    var container = values.remove(LdapSettings.CONTAINER);
    var parent =
        entries.container(
            base(create.usable()),
            container == null || container.isEmpty() ? "" : container.getFirst());
    var known = new Known(directory);
    var attributes = attributes(values, known);
    var entry = new Entry(new DN(rdn(values), parent));
    entry.addAttribute("objectClass", settings.objectClasses());
    attributes.values().stream().filter(Attribute::hasValue).forEach(entry::addAttribute);
    entry.addAttribute(settings.origin(), create.externalId());
    settings.usable().mark(entry, create.usable());
    var request = new AddRequest(entry);
    request.setControls(readingAfterwards());
    try {
      var result = inContainer(parent, () -> add(request));
      return seen(result, () -> entries.byOrigin(create.externalId()), _ -> new TreeSet<>(), known);
    } catch (LDAPException e) {
      if (e.getResultCode() != ResultCode.ENTRY_ALREADY_EXISTS) {
        throw e;
      }
      return entries
          .byOrigin(create.externalId())
          .<Outcome>map(there -> place(there))
          .orElseGet(() -> outcomes.of(e));
    }
  }

  private Outcome place(SearchResultEntry there) {
    try {
      return new Outcome.AlreadyInPlace(
          Optional.of(entries.observed(there, groups.of(there.getDN()))));
    } catch (Unreachable e) {
      return new Outcome.Unknown(e.problem());
    }
  }

  private LDAPResult add(AddRequest request) throws LDAPException {
    return directory.write(request::toLDIFString, pool -> pool.add(request));
  }

  private DN base(boolean usable) {
    return !usable && settings.usable() instanceof Switch.Place(var suspended)
        ? suspended
        : settings.people();
  }

  /** The name of a new entry below its parent. */
  private RDN rdn(Map<String, List<String>> values) {
    return new RDN(settings.naming(), named(values).orElse(""));
  }

  /** The value that names the entry, if it is among these. */
  private Optional<String> named(Map<String, List<String>> values) {
    return values.entrySet().stream()
        .filter(one -> settings.naming().equalsIgnoreCase(attribute(one.getKey())))
        .flatMap(one -> one.getValue().stream())
        .findFirst();
  }

  private String attribute(String name) {
    return settings.attributes().getOrDefault(name, name);
  }

  /**
   * As the directory calls them.
   *
   * @param known names of entries that are referred to, and their ids, are added
   */
  private Map<String, Attribute> attributes(Map<String, List<String>> values, Known known)
      throws LDAPException, Unreachable {
    var attributes = new LinkedHashMap<String, Attribute>();
    for (var value : values.entrySet()) {
      var attribute = attribute(value.getKey());
      var texts = new ArrayList<String>();
      var isReference = directory.features().isReference(attribute);
      for (var text : value.getValue()) {
        texts.add(isReference ? dn(text, known) : text);
      }
      attributes.put(attribute, new Attribute(attribute, texts));
    }
    return attributes;
  }

  private String dn(String id, Known known) throws LDAPException {
    if (id.contains("=")) {
      return id;
    }
    var dn = entries.toWrite(id, "1.1").getDN();
    known.add(dn, id);
    return dn;
  }

  private interface Writing {
    LDAPResult write() throws LDAPException;
  }

  /** Units that have no entry yet get one. */
  private LDAPResult inContainer(DN parent, Writing writing) throws LDAPException {
    try {
      return writing.write();
    } catch (LDAPException e) {
      if (settings.containers() == null || e.getResultCode() != ResultCode.NO_SUCH_OBJECT) {
        throw e;
      }
      make(parent);
      return writing.write();
    }
  }

  private void make(DN unit) throws LDAPException {
    if (settings.bases().contains(unit)) {
      return;
    }
    make(unit.getParent());
    var entry = new Entry(unit);
    entry.addAttribute("objectClass", "organizationalUnit");
    try {
      add(new AddRequest(entry));
    } catch (LDAPException e) {
      if (e.getResultCode() != ResultCode.ENTRY_ALREADY_EXISTS) {
        throw e;
      }
    }
  }

  Outcome update(Instruction.Update update) throws LDAPException, Unreachable {
    var id = update.accountId();
    var known = new Known(directory);
    var inner = new LinkedHashMap<>(update.values());
    var container = inner.remove(LdapSettings.CONTAINER);
    var attributes = attributes(inner, known);
    var entry =
        entries.toWrite(
            id, attributes.isEmpty() ? new String[] {"1.1"} : names(attributes.values()));
    var names = List.of(entry.getParsedDN(), before(entry.getParsedDN(), update.before()));
    var dn = move(entry.getParsedDN(), named(inner), container);
    var refusal = following.refusal(names, dn);
    attributes.remove(named(attributes.keySet()));
    var changed =
        attributes.values().stream().filter(one -> !isSame(one, entry.getAttribute(one.getName())));
    var modifications =
        changed
            .map(
                one ->
                    new Modification(ModificationType.REPLACE, one.getName(), one.getRawValues()))
            .toArray(Modification[]::new);
    if (modifications.length == 0) {
      return refusal.orElseGet(() -> readBack(id));
    }
    var request = new ModifyRequest(dn.toString(), modifications);
    request.addControls(readingAfterwards());
    if (directory.features().asserts()) {
      request.addControl(new AssertionRequestControl(stillSo(entry, modifications), true));
    }
    var modified = modify(request);
    return refusal.orElseGet(() -> seen(modified, id, known));
  }

  private static String[] names(Collection<Attribute> attributes) {
    return attributes.stream().map(Attribute::getName).toArray(String[]::new);
  }

  private String named(Set<String> attributes) {
    return attributes.stream()
        .filter(one -> one.equalsIgnoreCase(settings.naming()))
        .findFirst()
        .orElse("");
  }

  private static boolean isSame(Attribute wanted, Attribute there) {
    var texts = there == null ? new String[0] : there.getValues();
    return new TreeSet<>(Arrays.asList(wanted.getValues()))
        .equals(new TreeSet<>(Arrays.asList(texts)));
  }

  /** What is changed has the values it was read with: RFC 4528. */
  private Filter stillSo(SearchResultEntry entry, Modification... modifications)
      throws Unreachable {
    var features = directory.features();
    return Filter.createANDFilter(
        Stream.of(modifications)
            .map(Modification::getAttributeName)
            .filter(features::isComparable)
            .flatMap(name -> stillSo(name, entry.getAttribute(name)))
            .toList());
  }

  private static Stream<Filter> stillSo(String name, Attribute there) {
    return there == null
        ? Stream.of(Filter.createNOTFilter(Filter.createPresenceFilter(name)))
        : Stream.of(there.getRawValues())
            .map(value -> Filter.createEqualityFilter(name, value.getValue()));
  }

  /** Renames, moves, or both in one. */
  private DN move(DN dn, Optional<String> name, List<String> container) throws LDAPException {
    var rdn = name.map(one -> renamed(dn.getRDN(), one)).orElse(dn.getRDN());
    var parent =
        container == null
            ? dn.getParent()
            : entries.container(baseOf(dn), container.isEmpty() ? "" : container.getFirst());
    return move(dn, rdn, parent);
  }

  /** What it was called, should what refers to it not have followed when it was renamed before. */
  private DN before(DN dn, Map<String, List<String>> before) throws LDAPException {
    var rdn = named(before).map(one -> renamed(dn.getRDN(), one)).orElse(dn.getRDN());
    var container = before.get(LdapSettings.CONTAINER);
    return new DN(
        rdn,
        container == null
            ? dn.getParent()
            : entries.container(baseOf(dn), container.isEmpty() ? "" : container.getFirst()));
  }

  private DN baseOf(DN dn) {
    return settings.usable() instanceof Switch.Place(var suspended)
            && dn.isDescendantOf(suspended, false)
        ? suspended
        : settings.people();
  }

  private DN move(DN dn, RDN rdn, DN parent) throws LDAPException {
    var isMoved = !parent.equals(dn.getParent());
    if (!isMoved && rdn.toString().equals(dn.getRDN().toString())) {
      return dn;
    }
    var request =
        new ModifyDNRequest(
            dn.toString(), rdn.toString(), true, isMoved ? parent.toString() : null);
    inContainer(
        parent, () -> directory.write(request::toLDIFString, pool -> pool.modifyDN(request)));
    return new DN(rdn, parent);
  }

  /** An entry may be named by several attributes: the others stay (RFC 4514, 2.2). */
  private RDN renamed(RDN rdn, String name) {
    var names = rdn.getAttributeNames();
    var values = rdn.getAttributeValues();
    for (int i = 0; i < names.length; i++) {
      if (names[i].equalsIgnoreCase(settings.naming())) {
        values[i] = name;
        return new RDN(names, values);
      }
    }
    return new RDN(settings.naming(), name);
  }

  Outcome setUsable(String id, boolean usable) throws LDAPException, Unreachable {
    return switch (settings.usable()) {
      case Switch.None() -> new Outcome.Refused(outcomes.noSwitch());
      case Switch.Place(var suspended) -> {
        var entry = entries.toWrite(id, "1.1");
        var dn = entry.getParsedDN();
        var from = usable ? suspended : settings.people();
        var to = usable ? settings.people() : suspended;
        var there = below(to, dn.getParent(), baseOf(dn));
        var before = new DN(dn.getRDN(), below(from, dn.getParent(), baseOf(dn)));
        yield following
            .refusal(List.of(before), move(dn, dn.getRDN(), there))
            .orElseGet(() -> readBack(id));
      }
      case Switch.Flag _, Switch.Lock() -> {
        var dn = entries.toWrite(id, "1.1").getDN();
        var request = new ModifyRequest(dn, settings.usable().set(usable));
        request.addControls(readingAfterwards());
        yield seen(modify(request), id, new Known(directory));
      }
    };
  }

  Outcome setPassword(String id, Secret password) throws LDAPException, Unreachable {
    var entry = entries.toWrite(id, Switch.LOCKED);
    var outcome = passwords.set(entry.getDN(), password);
    if (settings.usable() instanceof Switch.Lock lock && lock.isOff(entry)) {
      // A password policy takes a new password for a reason to unlock.
      modify(new ModifyRequest(entry.getDN(), lock.set(false)));
    }
    return outcome;
  }

  /** The same place below another base. */
  private static DN below(DN to, DN parent, DN from) {
    return parent.equals(from) ? to : new DN(parent.getRDN(), below(to, parent.getParent(), from));
  }

  Outcome join(String id, String group) throws LDAPException {
    groups.join(entries.toWrite(id, "1.1").getDN(), group);
    return readBack(id);
  }

  Outcome leave(String id, String group) throws LDAPException {
    groups.leave(entries.toWrite(id, "1.1").getDN(), group);
    return readBack(id);
  }

  Outcome delete(String id) throws LDAPException, Unreachable {
    var found = entries.byId(id);
    if (found.isEmpty()) {
      return new Outcome.AlreadyInPlace(Optional.empty());
    }
    var request = new DeleteRequest(found.get().getDN());
    groups.leaveAll(request.getDN());
    directory.write(request::toLDIFString, pool -> pool.delete(request));
    return entries.byId(id).isEmpty()
        ? new Outcome.Applied(Optional.empty())
        : new Outcome.Unknown(outcomes.problem(Entries.noSuchEntry(id)));
  }

  /** An entry that somebody else made may lack a class of ours, by which it holds what we write. */
  private LDAPResult modify(ModifyRequest request) throws LDAPException {
    try {
      return written(request);
    } catch (LDAPException e) {
      var lacking =
          e.getResultCode() == ResultCode.OBJECT_CLASS_VIOLATION
              ? classesLacking(new DN(request.getDN()))
              : Set.<String>of();
      if (lacking.isEmpty()) {
        throw e;
      }
      request.addModification(
          new Modification(ModificationType.ADD, "objectClass", lacking.toArray(String[]::new)));
      return written(request);
    }
  }

  private LDAPResult written(ModifyRequest request) throws LDAPException {
    return directory.write(request::toLDIFString, pool -> pool.modify(request));
  }

  private Set<String> classesLacking(DN dn) throws LDAPException {
    var lacking = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
    lacking.addAll(settings.objectClasses());
    directory.searchForWrite(dn, Filter.createPresenceFilter("objectClass"), "objectClass").stream()
        .filter(there -> Entries.normal(there.getDN()).equals(Entries.normal(dn.toString())))
        .flatMap(there -> Stream.of(there.getObjectClassValues()))
        .forEach(lacking::remove);
    return lacking;
  }

  private Control[] readingAfterwards() throws Unreachable {
    return directory.features().readsAfterwards()
        ? new Control[] {new PostReadRequestControl(false, entries.read())}
        : new Control[0];
  }

  private interface Back {
    Optional<SearchResultEntry> read() throws Unreachable;
  }

  private interface Memberships {
    SortedSet<String> of(String dn) throws Unreachable;
  }

  private Outcome seen(LDAPResult result, String id, Known known) {
    return seen(result, () -> entries.byId(id), groups::of, known);
  }

  /** The account as the answer to the write shows it (RFC 4527), else as it is read. */
  private Outcome seen(LDAPResult result, Back back, Memberships memberships, Known known) {
    try {
      var after = PostReadResponseControl.get(result);
      Optional<? extends Entry> entry = after == null ? back.read() : Optional.of(after.getEntry());
      return entry.isEmpty()
          ? new Outcome.Unknown(outcomes.problem(Entries.noSuchEntry(result.getMatchedDN())))
          : applied(entry.get(), memberships, known);
    } catch (LDAPException e) {
      return new Outcome.Unknown(outcomes.problem(e));
    } catch (Unreachable e) {
      return new Outcome.Unknown(e.problem());
    }
  }

  private Outcome applied(Entry entry, Memberships memberships, Known known) throws Unreachable {
    return new Outcome.Applied(
        Optional.of(entries.observed(entry, memberships.of(entry.getDN()), known)));
  }

  private Outcome readBack(String id) {
    try {
      var found = entries.byId(id);
      return found.isEmpty()
          ? new Outcome.Unknown(outcomes.problem(Entries.noSuchEntry(id)))
          : applied(found.get(), groups::of, new Known(directory));
    } catch (Unreachable e) {
      return new Outcome.Unknown(e.problem());
    }
  }
}
