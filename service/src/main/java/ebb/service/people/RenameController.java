package ebb.service.people;

import ebb.api.ChangeSetView;
import ebb.api.RenameRequest;
import ebb.api.RenameView;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.service.changes.ChangeViews;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.Database;
import java.net.URI;
import java.security.Principal;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/people/{id}/rename")
class RenameController {
  private final Database database;
  private final Renames renames;
  private final Reaches reaches;
  private final ChangeViews views;

  RenameController(Database database, Renames renames, Reaches reaches, ChangeViews views) {
    this.database = database;
    this.renames = renames;
    this.reaches = reaches;
    this.views = views;
  }

  /** What would follow from new names, before and after; nothing is kept. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/preview")
  RenameView preview(
      @PathVariable long id, @RequestBody RenameRequest request, Principal principal) {
    reaches.require(principal, id);
    return renames.preview(new PersonId(id), request);
  }

  /** Shows, as a change set, what new names would change. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping
  ResponseEntity<ChangeSetView> rename(
      @PathVariable long id,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody RenameRequest request,
      Principal principal) {
    reaches.require(principal, id);
    var set =
        renames.rename(
            new PersonId(id),
            request,
            Requests.version(ifMatch),
            principal.getName(),
            one -> reaches.require(principal, one));
    return ResponseEntity.created(URI.create("/api/v1/change-sets/" + set.id()))
        .body(database.read(session -> views.view(session, set)));
  }
}
