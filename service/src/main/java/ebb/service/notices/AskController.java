package ebb.service.notices;

import ebb.service.web.Open;
import java.nio.charset.StandardCharsets;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.util.HtmlUtils;

/** The pages of asks, for people who have nothing but a link. They need no script. */
@RestController
@RequestMapping("/ask/{token}")
@Open
class AskController {
  private static final String STYLE =
      """
      :root{color-scheme:light dark}body{margin:0;font:1rem/1.5 system-ui,sans-serif;background:light-dark(#f4f1ea,#12201f);\
      color:light-dark(#22302f,#e4e9e6);display:grid;place-items:center;min-height:100vh}main{width:min(26rem,90vw);padding:2rem;\
      border-top:.35rem solid #1c6b6a;background:light-dark(#fffdf8,#1a2b2a)}h1{font-size:1.3rem;margin:0 0 1rem}label{display:block;\
      margin:1rem 0 .25rem}input{font:inherit;width:100%;box-sizing:border-box;padding:.5rem;border:1px solid #6f7f7c;background:transparent;\
      color:inherit}button{font:inherit;margin-top:1.5rem;padding:.6rem 1.2rem;border:0;background:#1c6b6a;color:#fff}\
      :focus-visible{outline:3px solid #c4692f;outline-offset:2px}.why{border-left:.25rem solid #c4692f;padding-left:.75rem}""";

  private final Asks asks;

  AskController(Asks asks) {
    this.asks = asks;
  }

  @GetMapping(produces = MediaType.TEXT_HTML_VALUE)
  ResponseEntity<byte[]> show(@PathVariable String token) {
    return asks.open(token)
        .map(
            person ->
                page(
                    HttpStatus.OK,
                    "Choose a password",
                    form(person.displayName(), person.login(), null)))
        .orElseGet(AskController::over);
  }

  @PostMapping(
      consumes = MediaType.APPLICATION_FORM_URLENCODED_VALUE,
      produces = MediaType.TEXT_HTML_VALUE)
  ResponseEntity<byte[]> choose(
      @PathVariable String token, @RequestParam String password, @RequestParam String again) {
    var person = asks.open(token);
    return switch (asks.choose(token, password, again)) {
      case Asks.Answer.Over() -> over();
      case Asks.Answer.TooWeak(var why) ->
          page(
              HttpStatus.UNPROCESSABLE_CONTENT,
              "Choose a password",
              form(person.orElseThrow().displayName(), person.orElseThrow().login(), why));
      case Asks.Answer.NotEverywhere(_, var open) ->
          page(
              HttpStatus.SERVICE_UNAVAILABLE,
              "Not everywhere yet",
              "<p>The password is not set yet in: %s. That is no fault of yours.</p><p>Open the same link again in a few minutes.</p>"
                  .formatted(HtmlUtils.htmlEscape(String.join(", ", open))));
      case Asks.Answer.Set(var applications) ->
          page(
              HttpStatus.OK,
              "Your password is set",
              "<p>You can sign in now as <strong>%s</strong>, in: %s.</p>"
                  .formatted(
                      HtmlUtils.htmlEscape(person.orElseThrow().login()),
                      HtmlUtils.htmlEscape(String.join(", ", applications))));
    };
  }

  private static String form(String name, String login, String why) {
    return """
        <p>For %s. Your sign-in name is <strong>%s</strong>.</p>%s
        <form method="post"><label for="password">Password, at least %d characters</label>
        <input id="password" name="password" type="password" autocomplete="new-password" required minlength="%d">
        <label for="again">The same again</label>
        <input id="again" name="again" type="password" autocomplete="new-password" required>
        <button>Set my password</button></form>"""
        .formatted(
            HtmlUtils.htmlEscape(name),
            HtmlUtils.htmlEscape(login),
            why == null
                ? ""
                : "<p class=\"why\" role=\"alert\">" + HtmlUtils.htmlEscape(why) + "</p>",
            Asks.SHORTEST,
            Asks.SHORTEST);
  }

  private static ResponseEntity<byte[]> over() {
    return page(
        HttpStatus.GONE,
        "This link is over",
        "<p>It was used already, or its time has run out.</p><p>Ask your administrator for a new one.</p>");
  }

  private static ResponseEntity<byte[]> page(HttpStatus status, String title, String content) {
    var html =
        """
        <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
        <title>%1$s</title><style>%2$s</style></head><body><main><h1>%1$s</h1>%3$s</main></body></html>"""
            .formatted(title, STYLE, content);
    return ResponseEntity.status(status)
        .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
        .cacheControl(CacheControl.noStore())
        .header(
            "Content-Security-Policy",
            "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'")
        .header("Referrer-Policy", "no-referrer")
        .body(html.getBytes(StandardCharsets.UTF_8));
  }
}
