package ebb.service.identity;

import ebb.api.AlikeView;
import ebb.api.ChangeSetView;
import ebb.api.DuplicateView;
import ebb.api.KeyView;
import ebb.api.Listing;
import ebb.api.OtherPerson;
import ebb.core.change.ChangeSet;
import ebb.core.identity.Identity;
import ebb.core.operator.Act;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.service.changes.ChangeViews;
import ebb.service.identity.Identities.Alike;
import ebb.service.reach.Reaches;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.people.StoredPerson;
import java.net.URI;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/people")
class IdentityController {
  /** People looked at for one page of pairs: a second's work. */
  private static final int LOOKED_AT = 500;

  private static final int MOST_LOOKS = 4;

  private final Database database;
  private final BusinessClock clock;
  private final Identities identities;
  private final ChangeViews views;
  private final Reaches reaches;

  IdentityController(
      Database database,
      BusinessClock clock,
      Identities identities,
      ChangeViews views,
      Reaches reaches) {
    this.database = database;
    this.clock = clock;
    this.identities = identities;
    this.views = views;
    this.reaches = reaches;
  }

  /** The keys by which sources know a person. */
  @Allowed(Act.SEE)
  @GetMapping("/{id}/keys")
  Listing<KeyView> keys(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    return Listing.whole(
        identities.keys(new PersonId(id)).stream()
            .map(key -> new KeyView(key.source(), key.key()))
            .toList());
  }

  /** Who may be the same as a person, likeliest first. */
  @Allowed(Act.SEE)
  @GetMapping("/{id}/alike")
  Listing<AlikeView> alike(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    var person = identities.get(new PersonId(id));
    var reach = Callers.of(principal).reach();
    return Listing.whole(
        identities.alike(person).stream()
            .filter(one -> reach.covers(one.person().person()))
            .map(one -> view(one, person.person()))
            .toList());
  }

  /**
   * Pairs of records that may be one person. A page looks at so many people; it may be empty, and
   * others follow.
   */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/duplicates")
  Listing<DuplicateView> duplicates(@RequestParam(required = false) String cursor) {
    var last = Requests.cursor(cursor);
    var found = new ArrayList<DuplicateView>();
    for (int look = 0; look < MOST_LOOKS && found.isEmpty(); look++) {
      var among = identities.after(new PersonId(last == null ? 0 : last), LOOKED_AT);
      if (among.isEmpty()) {
        return Listing.page(found, null);
      }
      identities.pairs(among).forEach(pair -> found.add(view(pair)));
      last = among.getLast().value();
      if (among.size() < LOOKED_AT) {
        return Listing.page(found, null);
      }
    }
    return Listing.page(found, last.toString());
  }

  /** Shows, as a change set, what making one record of this and another would change. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{id}/merge")
  ResponseEntity<ChangeSetView> merge(
      @PathVariable long id, @RequestBody OtherPerson request, Principal principal) {
    reaches.requireAll(principal, List.of(new PersonId(id), new PersonId(request.other())));
    return shown(
        identities.merge(new PersonId(id), new PersonId(request.other()), principal.getName()));
  }

  /** Shows, as a change set, what making somebody of their own of one of the keys would change. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{id}/part")
  ResponseEntity<ChangeSetView> part(
      @PathVariable long id, @RequestBody KeyView request, Principal principal) {
    reaches.require(principal, id);
    var key =
        new Identity.Key(
            Requests.required(request.source(), "source"), Requests.required(request.key(), "key"));
    return shown(identities.part(new PersonId(id), key, principal.getName()));
  }

  /** Remembers that this person and another are two, however alike. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{id}/apart")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void apart(@PathVariable long id, @RequestBody OtherPerson request, Principal principal) {
    reaches.requireAll(principal, List.of(new PersonId(id), new PersonId(request.other())));
    identities.keepApart(new PersonId(id), new PersonId(request.other()), principal.getName());
  }

  private ResponseEntity<ChangeSetView> shown(ChangeSet set) {
    return ResponseEntity.created(URI.create("/api/v1/change-sets/" + set.id()))
        .eTag("\"" + set.version() + "\"")
        .body(database.read(session -> views.view(session, set)));
  }

  private static PersonId id(Alike alike) {
    return alike.person().person().id();
  }

  private DuplicateView view(Identities.Pair pair) {
    var person = pair.person();
    return new DuplicateView(
        person.person().id().value(),
        person.displayName(),
        stage(person),
        view(pair.alike(), person.person()));
  }

  private AlikeView view(Alike alike, Person beside) {
    return new AlikeView(
        id(alike).value(),
        alike.person().displayName(),
        stage(alike.person()),
        alike.why().score(),
        alike.why().reasons(),
        both(beside, alike.person().person()));
  }

  private static List<AlikeView.BothView> both(Person one, Person other) {
    var names = new TreeSet<>(one.attributes().keySet());
    names.addAll(other.attributes().keySet());
    return names.stream()
        .map(
            name ->
                new AlikeView.BothView(
                    name, one.get(name).orElse(null), other.get(name).orElse(null)))
        .toList();
  }

  private String stage(StoredPerson person) {
    return person.person().stage(clock.instant(), clock.zone()).word();
  }
}
