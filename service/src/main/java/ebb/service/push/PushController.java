package ebb.service.push;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.web.Open;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.push.Resource;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.net.URI;
import java.security.Principal;
import java.util.Arrays;
import java.util.List;
import java.util.function.BiFunction;
import java.util.stream.StreamSupport;
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

  private final Database database;
  private final PushSources sources;
  private final PushDesk desk;
  private final Shown shown;
  private final Search search;
  private final Bulk bulk;
  private final ApplicationEventPublisher events;

  PushController(
      Database database,
      PushSources sources,
      PushDesk desk,
      Shown shown,
      Search search,
      Bulk bulk,
      ApplicationEventPublisher events) {
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
      @RequestParam(required = false) Integer startIndex,
      @RequestParam(required = false) Integer count,
      @RequestParam(required = false) String attributes,
      @RequestParam(required = false) String excludedAttributes,
      HttpServletRequest request,
      Principal principal) {
    var asked =
        new Search.Asked(filter, startIndex, count, names(attributes), names(excludedAttributes));
    return find(kind, asked, request, principal);
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
            body.hasNonNull("startIndex") ? body.path("startIndex").asInt() : null,
            body.hasNonNull("count") ? body.path("count").asInt() : null,
            names(body.path("attributes")),
            names(body.path("excludedAttributes")));
    return find(kind, asked, request, principal);
  }

  private ResponseEntity<String> find(
      String kind, Search.Asked asked, HttpServletRequest request, Principal principal) {
    var sender = sources.sender(principal.getName());
    return PushAnswers.answer(
        HttpStatus.OK,
        database.read(
            session -> search.find(session, sender, kind(kind), asked, address(request))));
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
          var whole = shown.of(session, resource, address(request));
          return tagged(
              HttpStatus.OK,
              resource,
              Search.trimmed(whole, names(attributes), names(excludedAttributes)));
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
    var expected = Requests.version(ifMatch);
    var isWhole = request.getMethod().equals(RequestMethod.PUT.name());
    return write(
        HttpStatus.OK,
        request,
        principal,
        (session, sender) ->
            isWhole
                ? desk.replace(session, sender, kind(kind), id, expected, body)
                : desk.patch(session, sender, kind(kind), id, expected, body));
  }

  @DeleteMapping("/{kind:Users|Groups}/{id}")
  ResponseEntity<String> delete(
      @PathVariable String kind,
      @PathVariable String id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
      Principal principal) {
    var sender = sources.sender(principal.getName());
    database.writeAll(
        session -> desk.delete(session, sender, kind(kind), id, Requests.version(ifMatch)));
    events.publishEvent(new Pushed(sender.source()));
    return ResponseEntity.noContent().build();
  }

  @PostMapping("/Bulk")
  ResponseEntity<String> bulk(HttpServletRequest request, Principal principal) throws IOException {
    var body = body(request);
    var sender = sources.sender(principal.getName());
    var answer = bulk.run(sender, body, address(request));
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
        session -> tagged(status, kept, shown.of(session, kept, address(request))));
  }

  private static ResponseEntity<String> tagged(
      HttpStatus status, Resource resource, ObjectNode body) {
    var answer =
        ResponseEntity.status(status).contentType(PushAnswers.SCIM).eTag(Shown.tag(resource));
    var location = body.path("meta").path("location").asText("");
    return (location.isEmpty() ? answer : answer.location(URI.create(location)))
        .body(body.toString());
  }

  private static JsonNode body(HttpServletRequest request) throws IOException {
    var bytes = request.getInputStream().readNBytes(Bulk.MOST_BYTES + 1);
    if (bytes.length > Bulk.MOST_BYTES) {
      throw new Refusal(Refusal.Kind.TOO_LARGE, tooLarge());
    }
    try {
      return JsonUtils.getObjectReader().readTree(bytes);
    } catch (JsonProcessingException e) {
      throw Refusal.invalid(notJson(e));
    }
  }

  private static Resource.Kind kind(String path) {
    return path.equals("Users") ? Resource.Kind.USER : Resource.Kind.GROUP;
  }

  private static List<String> names(String list) {
    return list == null
        ? List.of()
        : Arrays.stream(list.split(",")).map(String::strip).filter(one -> !one.isEmpty()).toList();
  }

  private static List<String> names(JsonNode list) {
    return StreamSupport.stream(list.spliterator(), false).map(JsonNode::asText).toList();
  }

  /** Of this interface, as the sender reaches it. */
  static String address(HttpServletRequest request) {
    var url = request.getRequestURL();
    return url.substring(0, url.indexOf(PATH) + PATH.length());
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
