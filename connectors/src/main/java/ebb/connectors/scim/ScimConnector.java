package ebb.connectors.scim;

import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.JsonHttp.Answer;
import ebb.connectors.http.JsonHttp.NoAnswer;
import ebb.connectors.http.Lines;
import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Details;
import ebb.core.application.Equality;
import ebb.core.application.Inspection;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import ebb.core.application.Reading;
import ebb.core.application.Secrets;
import ebb.core.application.Sightings;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** A connector to one application that speaks SCIM 2.0. */
public final class ScimConnector implements Connector {
  /** Calls at once; the application's own limits come on top. */
  public static final int CALLS_AT_ONCE = 8;

  private final ScimSettings settings;
  private final ScimProblems problems;
  private final JsonHttp http;
  private volatile Session session;

  /** What follows from what the application said of itself. */
  private record Session(
      ScimFeatures features, ScimWrites writes, ScimLists lists, ScimGroups groups) {}

  private ScimConnector(JsonHttp.Line line, ScimSettings settings) {
    this.settings = settings;
    this.problems = new ScimProblems(line.application());
    this.http = new JsonHttp(line);
  }

  /**
   * @param settings as docs/applications.md has them
   * @throws IllegalArgumentException if a certificate or key among them cannot be used
   */
  public static ScimConnector open(
      String application, Map<String, String> settings, Secrets secrets, int callsAtOnce) {
    return new ScimConnector(
        Lines.of(application, settings, secrets, callsAtOnce * 2), ScimSettings.of(settings));
  }

  private Session session() throws Unreachable {
    if (session == null) {
      synchronized (this) {
        if (session == null) {
          session = look();
        }
      }
    }
    return session;
  }

  private Session look() throws Unreachable {
    var features = ScimFeatures.read(http);
    var lists = new ScimLists(http, features, problems);
    return new Session(features, writes(features), lists, new ScimGroups(http, features, lists));
  }

  private ScimWrites writes(ScimFeatures features) {
    return features.together() > 1 && settings.sendsTogether()
        ? new ScimBulk(http, problems, features.together(), features.largestTogether())
        : ScimWrites.each(http);
  }

  @Override
  public Capabilities capabilities() throws Unreachable {
    var features = session().features();
    var equality = new TreeMap<String, Equality>(features.attributes().equality());
    equality.putAll(settings.equality());
    return new Capabilities(
        features.attributes().names(),
        features.attributes().required(),
        equality,
        parts(features),
        features.page(),
        settings.settles());
  }

  private Set<Part> parts(ScimFeatures features) {
    var parts = EnumSet.noneOf(Part.class);
    if (features.groups() != null) {
      parts.add(Part.GROUPS);
    }
    if (features.passwords()) {
      parts.add(Part.PASSWORDS);
    }
    if (settings.keepsDeleted()) {
      parts.add(Part.RESTORE);
    }
    return parts;
  }

  @Override
  public Inspection inspect() throws Unreachable {
    session = look();
    return new ScimInspection(http, session.features()).of(capabilities());
  }

  @Override
  public Reading read(String since, Sightings to) throws Unreachable {
    var now = session();
    var showsGroups = now.features().attributes().showsGroups();
    var members = showsGroups ? null : now.groups().all(_ -> false);
    var accounts = new HashSet<String>();
    now.lists()
        .each(
            now.features().users(),
            "",
            user -> {
              var id = user.path("id").asString();
              accounts.add(id);
              to.account(
                  observed(now, user, showsGroups ? shownGroups(user) : members.groupsOf(id)));
            });
    var groups = showsGroups ? now.groups().all(accounts::contains) : members;
    groups.observed(accounts::contains).forEach(to::group);
    return Reading.OF_ALL;
  }

  @Override
  public Optional<Details> details(String accountId) throws Unreachable {
    return http.find(path(accountId)).map(ScimDetails::of);
  }

  private static Set<String> shownGroups(JsonNode user) {
    var names = new TreeSet<String>();
    user.path("groups").forEach(group -> names.add(group.path("display").asString("")));
    return names;
  }

  @Override
  public Optional<ObservedAccount> find(String accountId) throws Unreachable {
    var user = http.find(path(accountId));
    return user.isEmpty() ? Optional.empty() : Optional.of(observed(user.get()));
  }

  @Override
  public Optional<ObservedAccount> findByExternalId(String externalId) throws Unreachable {
    return first("externalId", externalId);
  }

  private Optional<ObservedAccount> first(String attribute, String value) throws Unreachable {
    var now = session();
    var found = now.lists().having(now.features().users(), attribute, value, "");
    return found.isEmpty() ? Optional.empty() : Optional.of(observed(found.getFirst()));
  }

  private ObservedAccount observed(JsonNode user) throws Unreachable {
    var now = session();
    return observed(now, user, now.groups().of(user));
  }

  private static ObservedAccount observed(Session now, JsonNode user, Set<String> groups) {
    return new ObservedAccount(
        user.path("id").asString(),
        user.path("externalId").asString(null),
        user.path("active").asBoolean(true),
        now.features().attributes().read(user),
        new TreeSet<>(groups));
  }

  @Override
  public Outcome apply(Instruction instruction) {
    try {
      return switch (instruction) {
        case Instruction.Create create -> create(create);
        case Instruction.Update(var id, var values, _) -> update(id, values);
        case Instruction.SetUsable(var id, var usable) ->
            edit(id, new Edit("active", JsonHttp.JSON.getNodeFactory().booleanNode(usable)));
        case Instruction.SetPassword(var id, var password) -> {
          var value = JsonHttp.JSON.getNodeFactory().stringNode(password.reveal());
          yield written(id, change(id, new Edit("password", value)), _ -> new Outcome.Accepted());
        }
        case Instruction.Join(var id, var group) -> join(id, group);
        case Instruction.Leave(var id, var group) -> leave(id, group);
        case Instruction.Delete(var id) -> delete(id);
        case Instruction.TakeSeat _, Instruction.FreeSeat _ ->
            throw new IllegalStateException("What stands for a seat is another's to know");
      };
    } catch (NoAnswer e) {
      return e.outcome();
    } catch (Unreachable e) {
      return new Outcome.RetryLater(null, e.problem());
    }
  }

  private Outcome create(Instruction.Create create) throws NoAnswer, Unreachable {
    var features = session().features();
    var amiss = amiss(features, create);
    if (amiss.isPresent()) {
      return new Outcome.Refused(amiss.get());
    }
    var user = JsonHttp.JSON.createObjectNode();
    var schemas = user.putArray("schemas").add(ScimAttributes.USER);
    user.put("externalId", create.externalId());
    user.put("active", create.usable());
    create.values().forEach((name, texts) -> features.attributes().get(name).write(user, texts));
    features.extensions().stream().filter(user::has).forEach(schemas::add);
    var answer = session().writes().send("POST", features.users(), user, null);
    if (answer.status() == 409) {
      return taken(create);
    }
    if (!answer.isSuccess()) {
      return http.outcome(answer);
    }
    // Most answer with the account; where it is left out (RFC 7644, 3.3) it is looked up.
    return answer.body() == null
        ? findByExternalId(create.externalId())
            .<Outcome>map(account -> new Outcome.Applied(Optional.of(account)))
            .orElseGet(() -> new Outcome.Unknown(problems.notSeenYet(create.externalId())))
        : readBack(answer.body().path("id").asString(), answer);
  }

  private Optional<Problem> amiss(ScimFeatures features, Instruction.Create create) {
    var unknown =
        create.values().keySet().stream()
            .filter(name -> features.attributes().get(name) == null)
            .findFirst()
            .map(problems::noAttribute);
    return unknown.isPresent()
        ? unknown
        : features.attributes().required().stream()
            .filter(name -> create.values().getOrDefault(name, List.of()).isEmpty())
            .findFirst()
            .map(problems::required);
  }

  /** Somebody has the name: ourselves, before an answer was lost, or somebody else. */
  private Outcome taken(Instruction.Create create) throws Unreachable {
    var ours = findByExternalId(create.externalId());
    if (ours.isPresent()) {
      return new Outcome.AlreadyInPlace(ours);
    }
    var name = create.values().getOrDefault("userName", List.of());
    var isSeen = !name.isEmpty() && first("userName", name.getFirst()).isPresent();
    return isSeen || settings.settles().isZero()
        ? new Outcome.Refused(problems.nameTaken(create))
        : new Outcome.Unknown(problems.takenUnseen(create));
  }

  /** What is to become of one top-level attribute of a user, or of a part of one; null for none. */
  private record Edit(String path, JsonNode value, Consumer<ObjectNode> onWhole) {
    Edit(String name, JsonNode value) {
      this(name, value, user -> user.set(name, value));
    }

    ObjectNode operation() {
      return value == null
          ? ScimPatch.operation("remove", path)
          : ScimPatch.operation("replace", path).set("value", value);
    }
  }

  private Outcome update(String id, SortedMap<String, List<String>> values)
      throws NoAnswer, Unreachable {
    var features = session().features();
    var unknown =
        values.keySet().stream()
            .filter(name -> features.attributes().get(name) == null)
            .findFirst();
    if (unknown.isPresent()) {
      return new Outcome.Refused(problems.noAttribute(unknown.get()));
    }
    var attributes = new TreeMap<String, ScimAttribute>();
    values.keySet().forEach(name -> attributes.put(name, features.attributes().get(name)));
    var isWhole = attributes.values().stream().allMatch(one -> one instanceof ScimAttribute.Single);
    if (isWhole && features.patches()) {
      return edit(id, edits(attributes, values, JsonHttp.JSON.createObjectNode()));
    }
    // Values of several types stand in one list. A filter in the path fails where no value of the
    // type is there yet (RFC 7644, 3.5.2.3), so the whole list goes, guarded by its version.
    var current = http.send("GET", path(id), null, Map.of());
    if (!current.isSuccess()) {
      return written(id, current, null);
    }
    var edits = edits(attributes, values, (ObjectNode) current.body());
    return written(id, change(id, current, edits), answer -> readBack(id, answer));
  }

  private static Edit[] edits(
      SortedMap<String, ScimAttribute> attributes,
      SortedMap<String, List<String>> values,
      ObjectNode user) {
    attributes.forEach((name, attribute) -> attribute.write(user, values.get(name)));
    var byPath = new TreeMap<String, Edit>();
    attributes
        .values()
        .forEach(
            attribute -> {
              var whole = attribute.whole(user);
              var value =
                  whole.isMissingNode() || (whole.isArray() && whole.isEmpty()) ? null : whole;
              byPath.put(attribute.path(), new Edit(attribute.path(), value, _ -> {}));
            });
    return byPath.values().toArray(Edit[]::new);
  }

  private Outcome edit(String id, Edit... edits) throws NoAnswer, Unreachable {
    return written(id, change(id, edits), answer -> readBack(id, answer));
  }

  /** Changes a user whom nobody has looked at yet. */
  private Answer change(String id, Edit... edits) throws NoAnswer, Unreachable {
    if (session().features().patches()) {
      var answer = patch(id, null, edits);
      // Some want to be told which version is meant (RFC 7644, 3.14).
      if (answer.status() != 412 && answer.status() != 428) {
        return answer;
      }
    }
    var current = http.send("GET", path(id), null, Map.of());
    return current.isSuccess() ? change(id, current, edits) : current;
  }

  /** Changes a user as it was read. */
  private Answer change(String id, Answer current, Edit... edits) throws NoAnswer, Unreachable {
    if (session().features().patches()) {
      return patch(id, current.etag(), edits);
    }
    var user = (ObjectNode) current.body();
    for (var edit : edits) {
      edit.onWhole().accept(user);
    }
    user.remove(List.of("meta", "groups"));
    return session().writes().send("PUT", path(id), user, current.etag());
  }

  private Answer patch(String id, String etag, Edit... edits) throws NoAnswer, Unreachable {
    var operations = new ArrayList<ObjectNode>();
    for (var edit : edits) {
      operations.add(edit.operation());
    }
    return new ScimPatch(session().writes())
        .send(path(id), etag, operations.toArray(ObjectNode[]::new));
  }

  private interface Success {
    Outcome of(Answer answer) throws Unreachable;
  }

  private Outcome written(String id, Answer answer, Success success) throws Unreachable {
    if (answer.status() == 404) {
      return new Outcome.Refused(problems.gone(id));
    }
    return answer.isSuccess() ? success.of(answer) : http.outcome(answer);
  }

  private Outcome join(String id, String group) throws NoAnswer, Unreachable {
    var groups = session().groups();
    if (session().features().groups() == null) {
      return new Outcome.Refused(problems.noGroups());
    }
    var groupId = groups.id(group);
    if (groupId.isEmpty()) {
      return new Outcome.Refused(problems.noGroup(group));
    }
    return inGroup(id, group, groups.join(groupId.get(), id));
  }

  private Outcome leave(String id, String group) throws NoAnswer, Unreachable {
    var groups = session().groups();
    var groupId =
        session().features().groups() == null ? Optional.<String>empty() : groups.id(group);
    if (groupId.isEmpty()) {
      return readBack(id, null);
    }
    return inGroup(id, group, groups.leave(groupId.get(), id));
  }

  private Outcome inGroup(String id, String group, Answer answer) throws Unreachable {
    if (answer.status() == 404) {
      session().groups().forget(group);
      return find(id).isEmpty()
          ? new Outcome.Refused(problems.gone(id))
          : new Outcome.Refused(problems.noGroup(group));
    }
    return answer.isSuccess() ? readBack(id, null) : http.outcome(answer);
  }

  private Outcome delete(String id) throws NoAnswer, Unreachable {
    var answer = session().writes().send("DELETE", path(id), null, null);
    if (answer.status() == 404) {
      return new Outcome.AlreadyInPlace(Optional.empty());
    }
    if (!answer.isSuccess()) {
      return http.outcome(answer);
    }
    var left = find(id);
    if (left.isEmpty() || (settings.keepsDeleted() && !left.get().usable())) {
      return new Outcome.Applied(Optional.empty());
    }
    return settings.settles().isZero()
        ? new Outcome.Unknown(problems.stillThere(id))
        : new Outcome.NotSeenYet(settings.settles(), problems.notSeenYet(id));
  }

  /**
   * Reads an account after a write.
   *
   * @param written what the application answered to it; null if that says nothing of the account
   */
  private Outcome readBack(String id, Answer written) {
    try {
      var read = http.send("GET", path(id), null, Map.of());
      var isThere = read.isSuccess() && read.body() != null;
      if (!settings.settles().isZero() && !(isThere && shows(written, read))) {
        return new Outcome.NotSeenYet(settings.settles(), problems.notSeenYet(id));
      }
      if (isThere) {
        return new Outcome.Applied(Optional.of(observed(read.body())));
      }
      return new Outcome.Unknown(read.status() == 404 ? problems.gone(id) : http.problem(read));
    } catch (NoAnswer e) {
      return new Outcome.Unknown(e.problem());
    } catch (Unreachable e) {
      return new Outcome.Unknown(e.problem());
    }
  }

  /** Whether an account is read as it was written: by its version, else word for word. */
  private static boolean shows(Answer written, Answer read) {
    if (written == null || written.body() == null) {
      return false;
    }
    return written.etag() == null
        ? written.body().equals(read.body())
        : written.etag().equals(read.etag());
  }

  private String path(String id) throws Unreachable {
    return session().features().users() + "/" + id;
  }

  @Override
  public void close() {
    http.close();
  }
}
