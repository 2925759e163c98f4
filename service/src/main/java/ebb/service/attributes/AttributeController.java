package ebb.service.attributes;

import ebb.api.AttributeEdit;
import ebb.api.AttributeView;
import ebb.api.Listing;
import ebb.core.imports.Suggestions;
import ebb.core.imports.ValueCheck;
import ebb.core.operator.Act;
import ebb.core.person.Attribute;
import ebb.core.person.Attribute.Type;
import ebb.core.person.ByHand;
import ebb.core.person.Catalogue;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.OwnAttributes;
import java.security.Principal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/attributes")
class AttributeController {
  /** The other types have meanings of their own, which an own attribute could not bear. */
  private static final Set<Type> OWN_TYPES =
      Set.of(Type.TEXT, Type.NUMBER, Type.DATE, Type.YES_NO, Type.CHOICE);

  private final Database database;
  private final BusinessClock clock;
  private final OwnAttributes attributes;
  private final Journal journal;

  AttributeController(
      Database database, BusinessClock clock, OwnAttributes attributes, Journal journal) {
    this.database = database;
    this.clock = clock;
    this.attributes = attributes;
    this.journal = journal;
  }

  /** All attributes there are, in the order in which people fill them in. */
  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<AttributeView> list() {
    var own = new HashMap<String, Long>();
    Stream.of(database.read(attributes::list), database.read(attributes::standard))
        .flatMap(List::stream)
        .forEach(kept -> own.put(kept.attribute().name(), kept.version()));
    return Listing.whole(
        database.read(attributes::catalogue).all().stream()
            .map(attribute -> view(attribute, own.getOrDefault(attribute.name(), 0L)))
            .toList());
  }

  /**
   * Defines an attribute, or another version of it. Values that are there stay; its type stays too,
   * and choices that somebody may hold.
   */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{name}")
  ResponseEntity<AttributeView> put(
      @PathVariable String name,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody AttributeEdit edit,
      Principal principal) {
    var standard = Catalogue.STANDARD.find(name);
    if (standard.isPresent()) {
      mustBeStandard(standard.get(), edit);
      return putStandard(standard.get().setBy(hand(edit)), ifMatch, principal);
    }
    var attribute =
        new Attribute(
            name,
            Requests.word(Type.class, Requests.required(edit.type(), "type"), "type"),
            edit.required(),
            edit.fallback() == null || edit.fallback().isBlank() ? null : edit.fallback().strip(),
            edit.searchable(),
            hand(edit),
            edit.choices() == null
                ? List.of()
                : edit.choices().stream().map(String::strip).filter(c -> !c.isEmpty()).toList(),
            true);
    return database.write(
        session -> {
          var old = attributes.get(session, name);
          var problems = problems(attribute, old.map(OwnAttributes.Kept::attribute));
          if (!problems.isEmpty()) {
            throw new Refusal(Refusal.Kind.INVALID, problems);
          }
          long version = old.map(OwnAttributes.Kept::version).orElse(0L);
          Requests.expect("Attribute " + name, Requests.version(ifMatch), version);
          attributes.put(session, attribute, version);
          journal.write(
              session, clock.instant(), Deed.of(principal.getName(), "defined attribute " + name));
          return Requests.tagged(version + 1, view(attribute, version + 1));
        });
  }

  private ResponseEntity<AttributeView> putStandard(
      Attribute attribute, String ifMatch, Principal principal) {
    return database.write(
        session -> {
          long version =
              attributes.standard(session).stream()
                  .filter(kept -> kept.attribute().name().equals(attribute.name()))
                  .mapToLong(OwnAttributes.Kept::version)
                  .sum();
          Requests.expect("Attribute " + attribute.name(), Requests.version(ifMatch), version);
          attributes.putStandard(session, attribute.name(), attribute.byHand(), version);
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  principal.getName(),
                  "made setting %s by hand %s"
                      .formatted(attribute.name(), attribute.byHand().word())));
          return Requests.tagged(version + 1, view(attribute, version + 1));
        });
  }

  private static void mustBeStandard(Attribute standard, AttributeEdit edit) {
    var isOther =
        (edit.type() != null && !edit.type().equals(standard.type().word()))
            || (edit.required() && !standard.required())
            || (edit.fallback() != null && !edit.fallback().isBlank())
            || (edit.choices() != null && !edit.choices().isEmpty());
    if (isOther) {
      throw Refusal.invalid(
          new Problem(
              "attribute-is-standard",
              "%s is a standard attribute.".formatted(standard.name()),
              "What it holds is laid down in RFC 7643; only how it is set by hand can be chosen.",
              "Send byHand alone; or define an attribute under another name.",
              Where.field("name")));
    }
  }

  private static ByHand hand(AttributeEdit edit) {
    return edit.byHand() == null
        ? ByHand.ALLOWED
        : Requests.word(ByHand.class, edit.byHand(), "byHand");
  }

  private static List<Problem> problems(Attribute attribute, Optional<Attribute> old) {
    var problems = new ArrayList<Problem>();
    if (!Attribute.isName(attribute.name())) {
      problems.add(nameTaken(attribute.name()));
    }
    if (!OWN_TYPES.contains(attribute.type())) {
      problems.add(typeNotOwn(attribute.type()));
    }
    if (old.filter(before -> before.type() != attribute.type()).isPresent()) {
      problems.add(typeStays(old.get()));
    }
    if (attribute.type() == Type.CHOICE
        && (attribute.choices().isEmpty()
            || new HashSet<>(attribute.choices()).size() < attribute.choices().size())) {
      problems.add(choicesAmiss());
    }
    old.ifPresent(
        before ->
            before.choices().stream()
                .filter(choice -> !attribute.choices().contains(choice))
                .forEach(choice -> problems.add(choiceStays(choice))));
    if (problems.isEmpty() && attribute.fallback() != null) {
      var check = new ValueCheck(Catalogue.with(List.of(attribute)), "uuuu-MM-dd");
      if (check.of(attribute.name(), attribute.fallback(), Where.field("fallback"))
          instanceof ValueCheck.Bad(var problem)) {
        problems.add(problem);
      }
    }
    return problems;
  }

  private static Problem nameTaken(String name) {
    return new Problem(
        "attribute-name-invalid",
        "%s cannot be the name of an own attribute.".formatted(name),
        "Names begin with a small letter, hold letters and digits, and none of the standard ones.",
        "Choose another, as in campus or shoeSize.",
        Where.field("name"));
  }

  private static Problem typeNotOwn(Type type) {
    return new Problem(
        "attribute-type-invalid",
        "An own attribute cannot be of type %s.".formatted(type.word()),
        "Such values mean something to Ebb itself.",
        "Use text, number, date, yes-no or choice.",
        Where.field("type"));
  }

  private static Problem typeStays(Attribute old) {
    return new Problem(
        "attribute-type-stays",
        "%s is of type %s already.".formatted(old.name(), old.type().word()),
        "Values of people would be of the wrong kind.",
        "Define another attribute.",
        Where.field("type"));
  }

  private static Problem choicesAmiss() {
    return new Problem(
        "choices-amiss",
        "A choice needs at least one value, and none twice.",
        "Nobody could choose.",
        "List its values.",
        Where.field("choices"));
  }

  private static Problem choiceStays(String choice) {
    return new Problem(
        "choice-stays",
        "The choice %s would be gone.".formatted(choice),
        "Somebody may have it, or a source may send it.",
        "Leave it on the list.",
        Where.field("choices"));
  }

  private static AttributeView view(Attribute attribute, long version) {
    return new AttributeView(
        attribute.name(),
        Suggestions.label(attribute.name()),
        attribute.type().word(),
        attribute.required(),
        attribute.fallback(),
        attribute.searchable(),
        attribute.byHand().word(),
        attribute.choices(),
        attribute.own(),
        version);
  }
}
