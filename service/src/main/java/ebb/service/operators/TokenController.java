package ebb.service.operators;

import ebb.api.Listing;
import ebb.api.TokenRequest;
import ebb.api.TokenView;
import ebb.core.operator.Act;
import ebb.core.operator.Role;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.operators.Tokens.Token;
import java.net.URI;
import java.security.Principal;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/tokens")
class TokenController {
  private final IssuedTokens tokens;

  TokenController(IssuedTokens tokens) {
    this.tokens = tokens;
  }

  @Allowed(Act.OPERATORS)
  @GetMapping
  Listing<TokenView> list() {
    return Listing.whole(tokens.list().stream().map(token -> view(token, null)).toList());
  }

  /** Makes a token; its text is shown once. */
  @Allowed(Act.OPERATORS)
  @PostMapping
  ResponseEntity<TokenView> make(@RequestBody TokenRequest request, Principal principal) {
    var made =
        tokens.make(
            request.operator() == null ? principal.getName() : request.operator(),
            Requests.required(request.label(), "label"),
            Requests.word(Role.class, request.role(), "role"),
            request.days(),
            principal.getName());
    return ResponseEntity.created(URI.create("/api/v1/tokens/" + made.token().id()))
        .body(view(made.token(), made.text()));
  }

  @Allowed(Act.OPERATORS)
  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void revoke(@PathVariable long id, Principal principal) {
    tokens.revoke(id, principal.getName());
  }

  private static TokenView view(Token token, String text) {
    return new TokenView(
        token.id(),
        token.operator(),
        token.label(),
        token.role() == null ? null : token.role().word(),
        token.createdAt(),
        token.expiresAt(),
        token.revokedAt(),
        text);
  }
}
