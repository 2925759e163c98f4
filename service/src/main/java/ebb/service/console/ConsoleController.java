package ebb.service.console;

import ebb.service.web.Open;
import ebb.store.SecretBox;
import io.swagger.v3.oas.annotations.Hidden;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/**
 * The console's page, the same for each of its addresses. Scripts come from our own files only;
 * styles that components make while they run carry a mark made anew for each page.
 */
@Open
@Hidden
@RestController
class ConsoleController {
  private static final String MARK = "{{nonce}}";
  private static final String POLICY =
      "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-%s'; img-src 'self' data:;"
          + " font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none';"
          + " frame-ancestors 'none'";

  private final Optional<String> page;

  ConsoleController() throws IOException {
    var file = new ClassPathResource("console/index.html");
    page =
        file.exists()
            ? Optional.of(file.getContentAsString(StandardCharsets.UTF_8))
            : Optional.empty();
  }

  @GetMapping(
      path = {
        "/",
        "/sign-in",
        "/welcome",
        "/now/**",
        "/ahead/**",
        "/behind/**",
        "/who/**",
        "/where/**",
        "/why/**",
        "/self"
      })
  ResponseEntity<String> page() {
    return page(HttpStatus.OK);
  }

  /** Whoever mistypes an address in a browser is shown where to go on (Fetch Metadata, 2.2). */
  @GetMapping(path = "/{*wrong}", headers = "Sec-Fetch-Mode=navigate")
  ResponseEntity<String> nowhere() {
    return page(HttpStatus.NOT_FOUND);
  }

  private ResponseEntity<String> page(HttpStatus status) {
    if (page.isEmpty()) {
      return ResponseEntity.notFound().build();
    }
    var nonce = SecretBox.randomText();
    return ResponseEntity.status(status)
        .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
        .cacheControl(CacheControl.noStore())
        .header("Content-Security-Policy", POLICY.formatted(nonce))
        .body(page.get().replace(MARK, nonce));
  }
}
