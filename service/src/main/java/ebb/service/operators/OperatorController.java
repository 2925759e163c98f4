package ebb.service.operators;

import ebb.api.LinkView;
import ebb.api.Listing;
import ebb.api.OperatorEdit;
import ebb.api.OperatorView;
import ebb.core.operator.Act;
import ebb.core.operator.Reach;
import ebb.core.operator.Role;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.operators.Operator;
import java.security.Principal;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/operators")
class OperatorController {
  private final OperatorBook book;
  private final String address;

  OperatorController(OperatorBook book, @Value("${ebb.public-address}") String address) {
    this.book = book;
    this.address = address;
  }

  @Allowed(Act.OPERATORS)
  @GetMapping
  Listing<OperatorView> list() {
    return Listing.whole(book.list().stream().map(OperatorController::view).toList());
  }

  @Allowed(Act.OPERATORS)
  @GetMapping("/{name}")
  ResponseEntity<OperatorView> show(@PathVariable String name) {
    var operator = book.get(name);
    return Requests.tagged(operator.version(), view(operator));
  }

  /** Makes an operator, or changes what one may do. In force at once. */
  @Allowed(Act.OPERATORS)
  @PutMapping("/{name}")
  ResponseEntity<OperatorView> put(
      @PathVariable String name,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody OperatorEdit edit,
      Principal principal) {
    var role = Requests.word(Role.class, Requests.required(edit.role(), "role"), "role");
    var reach =
        new Reach(
            Objects.requireNonNullElse(edit.units(), Set.of()),
            Objects.requireNonNullElse(edit.kinds(), Set.of()));
    book.put(
        name,
        Requests.version(ifMatch),
        role,
        reach,
        edit.person(),
        edit.discreet(),
        edit.ended(),
        principal.getName());
    return show(name);
  }

  /** Makes a link with which the operator chooses a password; shown once. */
  @Allowed(Act.OPERATORS)
  @PostMapping("/{name}/link")
  LinkView link(@PathVariable String name, Principal principal) {
    return book.link(name, address, principal.getName());
  }

  private static OperatorView view(Operator operator) {
    return new OperatorView(
        operator.name(),
        operator.version(),
        operator.role().word(),
        new TreeSet<>(operator.reach().units()),
        new TreeSet<>(operator.reach().kinds()),
        operator.person() == null ? null : operator.person().value(),
        operator.discreet(),
        operator.passwordHash() != null,
        operator.secondFactor() != null,
        operator.createdAt(),
        operator.endedAt());
  }
}
