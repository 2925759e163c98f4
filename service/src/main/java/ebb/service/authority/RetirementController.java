package ebb.service.authority;

import ebb.api.ChangeSetView;
import ebb.api.RetirementView;
import ebb.core.operator.Act;
import ebb.service.changes.ChangeViews;
import ebb.service.web.Allowed;
import ebb.store.Database;
import java.net.URI;
import java.security.Principal;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/sources/{name}/retirement")
class RetirementController {
  private final Database database;
  private final Retirement retirement;
  private final ChangeViews views;

  RetirementController(Database database, Retirement retirement, ChangeViews views) {
    this.database = database;
    this.retirement = retirement;
    this.views = views;
  }

  /** What would become of what a source says, if it said nothing any more. */
  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  RetirementView look(@PathVariable String name) {
    return retirement.look(name);
  }

  /** Shows, as a change set, what taking away all that a source says would change. */
  @Allowed(Act.EDIT_SETTINGS)
  @PostMapping
  ResponseEntity<ChangeSetView> show(@PathVariable String name, Principal principal) {
    var set = retirement.show(name, principal.getName());
    return ResponseEntity.created(URI.create("/api/v1/change-sets/" + set.id()))
        .eTag("\"" + set.version() + "\"")
        .body(database.read(session -> views.view(session, set)));
  }
}
