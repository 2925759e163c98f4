package ebb.service.operators;

import ebb.api.Listing;
import ebb.api.TokenRequest;
import ebb.api.TokenView;
import ebb.service.web.Requests;
import ebb.store.operators.Operators.Token;
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
  private final Tokens tokens;

  TokenController(Tokens tokens) {
    this.tokens = tokens;
  }

  @GetMapping
  Listing<TokenView> list() {
    return new Listing<>(
        tokens.list().stream().map(token -> view(token, null)).toList(), null, null);
  }

  @PostMapping
  ResponseEntity<TokenView> make(@RequestBody TokenRequest request, Principal principal) {
    var made =
        tokens.make(
            principal.getName(), Requests.required(request.label(), "label"), request.days());
    return ResponseEntity.created(URI.create("/api/v1/tokens/" + made.token().id()))
        .body(view(made.token(), made.text()));
  }

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
        token.createdAt(),
        token.expiresAt(),
        token.revokedAt(),
        text);
  }
}
