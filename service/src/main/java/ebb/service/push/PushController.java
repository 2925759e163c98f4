package ebb.service.push;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectReader;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.web.Open;
import ebb.store.Database;
import ebb.store.push.Resource;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.math.BigInteger;
import java.net.URI;
import java.security.Principal;
import java.util.function.BiFunction;
import java.util.regex.Pattern;
import org.hibernate.StatelessSession;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The SCIM interface (RFC 7644). Who asks is told by the feed's token, not by a sign-in. */
@Open
@RestController
@RequestMapping(PushController.PATH)
class PushController {
  static final String PATH = "/scim/v2";

  /** Whatever comes after the body would be lost. */
  private static final ObjectReader WHOLE =
      JsonUtils.getObjectReader().with(DeserializationFeature.FAIL_ON_TRAILING_TOKENS);

  private static final Pattern JSON_TYPE =
      Pattern.compile("application/(scim\\+)?json\\s*(;.*)?", Pattern.CASE_INSENSITIVE);

  private final Database database;
  private final PushSources sources;
  private final PushDesk desk;
  private final Shown shown;
  private final Search search;
  private final Bulk bulk;
  private final ApplicationEventPublisher events;
  private final ScimAddress address;

  PushController(
      Database database,
      PushSources sources,
      PushDesk desk,
      Shown shown,
      Search search,
      Bulk bulk,
      ApplicationEventPublisher events,
      ScimAddress address) {
    this.address = address;
    this.database = database;
    this.sources = sources;
    this.desk = desk;
    this.shown = shown;
    this.search = search;
    this.bulk = bulk;
    this.events = events;
  }

  @GetMapping("/{kind:Users|Groups}")
  ResponseEntity<String> list(
      @PathVariable String kind,
      @RequestParam(required = false) String filter,
      @RequestParam(required = false) String startIndex,
      @RequestParam(required = false) String count,
      @RequestParam(required = false) String attributes,
      @RequestParam(required = false) String excludedAttributes,
      HttpServletRequest request,
      Principal principal) {
    var asked =
        new Search.Asked(
            filter,
            number("startIndex", startIndex),
            number("count", count),
            Projection.of(attributes, excludedAttributes));
    return find(kind, asked, principal);
  }

  /** RFC 7644, section 3.4.3: what would not fit into an address. */
  @PostMapping("/{kind:Users|Groups}/.search")
  ResponseEntity<String> search(
      @PathVariable String kind, HttpServletRequest request, Principal principal)
      throws IOException {
    var body = body(request);
    var asked =
        new Search.Asked(
            body.path("filter").asText(null),
            number("startIndex", body.path("startIndex").asText(null)),
            number("count", body.path("count").asText(null)),
            Projection.of(body.path("attributes"), body.path("excludedAttributes")));
    return find(kind, asked, principal);
  }

  private ResponseEntity<String> find(String kind, Search.Asked asked, Principal principal) {
    var sender = sources.sender(principal.getName());
    return PushAnswers.answer(
        HttpStatus.OK,
        database.read(
            session -> search.find(session, sender, kind(kind), asked, address.toString())));
  }

  @GetMapping("/{kind:Users|Groups}/{id}")
  ResponseEntity<String> show(
      @PathVariable String kind,
      @PathVariable String id,
      @RequestParam(required = false) String attributes,
      @RequestParam(required = false) String excludedAttributes,
      @RequestHeader(name = HttpHeaders.IF_NONE_MATCH, required = false) String ifNoneMatch,
      HttpServletRequest request,
      Principal principal) {
    var sender = sources.sender(principal.getName());
    return database.read(
        session -> {
          var resource = desk.get(session, sender, kind(kind), id);
          if (Shown.isNamed(resource, ifNoneMatch)) {
            return ResponseEntity.status(HttpStatus.NOT_MODIFIED)
                .eTag(Shown.tag(resource))
                .<String>build();
          }
          var whole = shown.of(session, resource, address.toString());
          return tagged(
              HttpStatus.OK, resource, Projection.of(attributes, excludedAttributes).of(whole));
        });
  }

  @PostMapping("/{kind:Users|Groups}")
  ResponseEntity<String> create(
      @PathVariable String kind, HttpServletRequest request, Principal principal)
      throws IOException {
    var body = body(request);
    return write(
        HttpStatus.CREATED,
        request,
        principal,
        (session, sender) -> desk.create(session, sender, kind(kind), body));
  }

  @RequestMapping(
      path = "/{kind:Users|Groups}/{id}",
      method = {RequestMethod.PUT, RequestMethod.PATCH})
  ResponseEntity<String> edit(
      @PathVariable String kind,
      @PathVariable String id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
      HttpServletRequest request,
      Principal principal)
      throws IOException {
    var body = body(request);
    var isWhole = request.getMethod().equals(RequestMethod.PUT.name());
    return write(
        HttpStatus.OK,
        request,
        principal,
        (session, sender) ->
            isWhole
                ? desk.replace(session, sender, kind(kind), id, ifMatch, body)
                : desk.patch(session, sender, kind(kind), id, ifMatch, body));
  }

  @DeleteMapping("/{kind:Users|Groups}/{id}")
  ResponseEntity<String> delete(
      @PathVariable String kind,
      @PathVariable String id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
      Principal principal) {
    var sender = sources.sender(principal.getName());
    database.writeAll(session -> desk.delete(session, sender, kind(kind), id, ifMatch));
    events.publishEvent(new Pushed(sender.source()));
    return ResponseEntity.noContent().build();
  }

  @PostMapping("/Bulk")
  ResponseEntity<String> bulk(HttpServletRequest request, Principal principal) throws IOException {
    var body = body(request);
    var sender = sources.sender(principal.getName());
    var answer = bulk.run(sender, body, address.toString());
    events.publishEvent(new Pushed(sender.source()));
    return PushAnswers.answer(HttpStatus.OK, answer);
  }

  private ResponseEntity<String> write(
      HttpStatus status,
      HttpServletRequest request,
      Principal principal,
      BiFunction<StatelessSession, Sender, Resource> work) {
    var sender = sources.sender(principal.getName());
    var kept = database.write(session -> work.apply(session, sender));
    events.publishEvent(new Pushed(sender.source()));
    return database.read(
        session ->
            tagged(
                status,
                kept,
                Projection.of(
                        request.getParameter("attributes"),
                        request.getParameter("excludedAttributes"))
                    .of(shown.of(session, kept, address.toString()))));
  }

  private ResponseEntity<String> tagged(HttpStatus status, Resource resource, ObjectNode body) {
    return ResponseEntity.status(status)
        .contentType(PushAnswers.SCIM)
        .eTag(Shown.tag(resource))
        .location(URI.create(Shown.location(resource, address.toString())))
        .body(body.toString());
  }

  private static JsonNode body(HttpServletRequest request) throws IOException {
    mustBeJson(request);
    var bytes = request.getInputStream().readNBytes(Bulk.MOST_BYTES + 1);
    if (bytes.length > Bulk.MOST_BYTES) {
      throw new Refusal(Refusal.Kind.TOO_LARGE, tooLarge());
    }
    try {
      return WHOLE.readTree(bytes);
    } catch (JsonProcessingException e) {
      throw Refusal.invalid(notJson(e));
    }
  }

  private static void mustBeJson(HttpServletRequest request) {
    var type = request.getContentType();
    var isJson = type == null || JSON_TYPE.matcher(type).matches();
    var encoding = request.getHeader(HttpHeaders.CONTENT_ENCODING);
    if (!isJson || (encoding != null && !encoding.equalsIgnoreCase("identity"))) {
      throw new Refusal(
          Refusal.Kind.MEDIA_TYPE,
          new Problem(
              "scim-media-type",
              isJson
                  ? "The body is encoded as %s.".formatted(encoding)
                  : "The body is %s.".formatted(type),
              "JSON is taken, as it is (RFC 7644, section 3.1).",
              "Send it as application/scim+json, without an encoding.",
              Where.field(isJson ? HttpHeaders.CONTENT_ENCODING : HttpHeaders.CONTENT_TYPE)));
    }
  }

  private static Resource.Kind kind(String path) {
    return path.equals("Users") ? Resource.Kind.USER : Resource.Kind.GROUP;
  }

  /** Of any size: what lies beyond all there is is as far away as it can be said. */
  private static Integer number(String name, String text) {
    if (text == null) {
      return null;
    }
    if (!text.strip().matches("[+-]?\\d{1,100}")) {
      throw Refusal.invalid(
          new Problem(
              "scim-value-invalid",
              "%s cannot be %s.".formatted(name, text),
              "It is a number (RFC 7644, section 3.4.2.4).",
              "Correct it, or leave it out.",
              Where.field(name)));
    }
    var number = new BigInteger(text.strip());
    return number.bitLength() < Integer.SIZE
        ? number.intValue()
        : number.signum() < 0 ? Integer.MIN_VALUE : Integer.MAX_VALUE;
  }

  private static Problem notJson(JsonProcessingException e) {
    return new Problem(
        "scim-body-invalid",
        "The body of the request is no JSON.",
        String.valueOf(e.getOriginalMessage()),
        "Send JSON (RFC 8259) in UTF-8.",
        Where.field("body"));
  }

  private static Problem tooLarge() {
    return new Problem(
        "scim-bulk-too-large",
        "The request is longer than %d MB.".formatted(Bulk.MOST_BYTES / 1024 / 1024),
        "It is held in memory while it is carried out.",
        "Send it in parts; /scim/v2/ServiceProviderConfig names the most.",
        Where.field("body"));
  }
}
