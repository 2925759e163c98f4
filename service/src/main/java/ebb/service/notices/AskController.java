package ebb.service.notices;

import ebb.core.notice.Ask;
import ebb.core.notice.Notice;
import ebb.service.notices.Asking.Page;
import ebb.service.time.BusinessClock;
import ebb.service.web.Open;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.nio.charset.StandardCharsets;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

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
      fieldset{border:0;border-top:1px solid #6f7f7c;margin:1rem 0 0;padding:.5rem 0 0}legend{font-weight:600;padding-right:.5rem}.tick{margin:.25rem 0}\
      .tick input{width:auto;margin-right:.5rem}:focus-visible{outline:3px solid #c4692f;outline-offset:2px}.why{border-left:.25rem solid #c4692f;padding-left:.75rem}""";

  private final Database database;
  private final BusinessClock clock;
  private final Notices notices;
  private final People people;
  private final Map<Notice.Kind, Asking> askings = new EnumMap<>(Notice.Kind.class);

  AskController(
      Database database,
      BusinessClock clock,
      Notices notices,
      People people,
      List<Asking> askings) {
    this.database = database;
    this.clock = clock;
    this.notices = notices;
    this.people = people;
    askings.forEach(one -> one.kinds().forEach(kind -> this.askings.put(kind, one)));
  }

  @GetMapping(produces = MediaType.TEXT_HTML_VALUE)
  ResponseEntity<byte[]> show(@PathVariable String token) {
    return page(open(token, (ask, person) -> askings.get(ask.kind()).show(ask, person)));
  }

  @PostMapping(
      consumes = MediaType.APPLICATION_FORM_URLENCODED_VALUE,
      produces = MediaType.TEXT_HTML_VALUE)
  ResponseEntity<byte[]> answer(
      @PathVariable String token, @RequestParam Map<String, String> answers) {
    return page(open(token, (ask, person) -> askings.get(ask.kind()).answer(ask, person, answers)));
  }

  private Page open(String token, BiFunction<Ask, StoredPerson, Page> then) {
    var hash = SecretBox.hash(token);
    var ask =
        database
            .read(session -> notices.ask(session, hash))
            .filter(one -> one.isOpenAt(clock.instant()));
    var person = ask.flatMap(one -> database.read(session -> people.get(session, one.person())));
    return person.isEmpty() ? Asking.OVER : then.apply(ask.get(), person.get());
  }

  private static ResponseEntity<byte[]> page(Page page) {
    var html =
        """
        <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
        <title>%1$s</title><style>%2$s</style></head><body><main><h1>%1$s</h1>%3$s</main></body></html>"""
            .formatted(page.title(), STYLE, page.content());
    return ResponseEntity.status(page.status())
        .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
        .cacheControl(CacheControl.noStore())
        .header(
            "Content-Security-Policy",
            "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'")
        .header("Referrer-Policy", "no-referrer")
        .body(html.getBytes(StandardCharsets.UTF_8));
  }
}
