package ebb.service.sync;

import ebb.api.AccountView;
import ebb.api.CandidateView;
import ebb.api.ChangeSetView;
import ebb.api.DetailsView;
import ebb.api.LinkedView;
import ebb.api.Listing;
import ebb.api.OtherPerson;
import ebb.api.ReasonRequest;
import ebb.api.TakeRequest;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.ChangeViews;
import ebb.service.reach.Reaches;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import java.security.Principal;
import java.util.Set;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What to do about one account that was found. */
@RestController
@RequestMapping("/api/v1/accounts/{id}")
class AccountController {
  private final Database database;
  private final ChangeViews views;
  private final AccountDesk desk;
  private final Reaches reaches;

  AccountController(Database database, AccountDesk desk, ChangeViews views, Reaches reaches) {
    this.database = database;
    this.views = views;
    this.desk = desk;
    this.reaches = reaches;
  }

  @Allowed(Act.SEE)
  @GetMapping
  AccountView show(@PathVariable long id, Principal principal) {
    return AccountViews.view(get(id, principal));
  }

  /** All that the application shows of an account now. */
  @Allowed(Act.SEE)
  @GetMapping("/details")
  DetailsView details(@PathVariable long id, Principal principal) {
    var details = desk.details(get(id, principal));
    return new DetailsView(details.values(), details.changedAt(), details.changedBy());
  }

  /** Whose an account may be that is nobody's, likeliest first. */
  @Allowed(Act.EDIT_PEOPLE)
  @GetMapping("/candidates")
  Listing<CandidateView> candidates(@PathVariable long id, Principal principal) {
    return Listing.whole(
        desk.candidates(get(id, principal)).stream().map(AccountController::view).toList());
  }

  /** Says whose an account is. Nothing is written there: what follows is shown as a set. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/link")
  LinkedView link(@PathVariable long id, @RequestBody OtherPerson request, Principal principal) {
    var account = get(id, principal);
    reaches.require(principal, request.other());
    return linked(desk.link(account, new PersonId(request.other()), principal.getName()));
  }

  /** Says that an account is not the person's to whom it was given. Nothing is written there. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/unlink")
  LinkedView unlink(@PathVariable long id, Principal principal) {
    return linked(desk.unlink(get(id, principal), principal.getName()));
  }

  /**
   * Leaves an account as it is. One that is nobody's is technical; one of a person may differ, and
   * is suspended and closed all the same.
   */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/leave-alone")
  LinkedView leaveAlone(
      @PathVariable long id, @RequestBody ReasonRequest request, Principal principal) {
    var why = Requests.required(request.reason(), "reason");
    return linked(desk.leaveAlone(get(id, principal), why, principal.getName()));
  }

  /** Keeps an account as it should be, again. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/keep")
  LinkedView keep(@PathVariable long id, Principal principal) {
    return linked(desk.keep(get(id, principal), principal.getName()));
  }

  /** Shows what follows if values of an account become the person's. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/take")
  ChangeSetView take(@PathVariable long id, @RequestBody TakeRequest request, Principal principal) {
    var attributes = request.attributes() == null ? Set.<String>of() : request.attributes();
    if (attributes.isEmpty()) {
      throw Refusal.invalid(attributesMissing());
    }
    var set =
        desk.take(
            get(id, principal),
            attributes,
            principal.getName(),
            person -> reaches.require(principal, person));
    return database.read(session -> views.view(session, set));
  }

  private Account get(long id, Principal principal) {
    var account = desk.get(id);
    if (account.person() != null) {
      reaches.require(principal, account.person().value());
    }
    return account;
  }

  private static LinkedView linked(AccountDesk.Linked linked) {
    return new LinkedView(
        AccountViews.view(linked.account()), linked.set().map(set -> set.id()).orElse(null));
  }

  static Problem attributesMissing() {
    return new Problem(
        "attributes-missing",
        "It is not said which values are to be taken.",
        "An account has many.",
        "Name at least one attribute.",
        null);
  }

  static CandidateView view(AccountMatching.Candidate candidate) {
    var person = candidate.person();
    return new CandidateView(
        person.person().id().value(),
        person.displayName(),
        person.person().get("department").orElse(null),
        candidate.why(),
        candidate.account() == null ? null : candidate.account().id(),
        candidate.account() == null ? null : AccountViews.name(candidate.account()));
  }
}
