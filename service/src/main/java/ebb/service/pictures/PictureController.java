package ebb.service.pictures;

import ebb.core.operator.Act;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.store.Database;
import ebb.store.people.People;
import java.security.Principal;
import java.time.Duration;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/people")
class PictureController {
  private final Database database;
  private final People people;
  private final Pictures pictures;
  private final Reaches reaches;

  PictureController(Database database, People people, Pictures pictures, Reaches reaches) {
    this.database = database;
    this.people = people;
    this.pictures = pictures;
    this.reaches = reaches;
  }

  /** A person's picture, as JPEG or PNG. */
  @Allowed(Act.SEE)
  @GetMapping("/{id}/picture")
  ResponseEntity<Resource> show(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    var path =
        database
            .read(session -> people.get(session, new PersonId(id)))
            .flatMap(stored -> stored.person().get(Attributes.PHOTO))
            .flatMap(pictures::of)
            .orElseThrow(
                () -> Refusal.notFound("picture of person", id, "See: ebb people show " + id));
    return ResponseEntity.ok()
        .contentType(Pictures.type(path).orElseThrow())
        .cacheControl(CacheControl.maxAge(Duration.ofMinutes(5)).cachePrivate())
        .body(new FileSystemResource(path));
  }
}
