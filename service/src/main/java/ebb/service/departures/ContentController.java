package ebb.service.departures;

import ebb.api.OpenRequest;
import ebb.connectors.carry.Content;
import ebb.connectors.carry.ItemProblems;
import ebb.connectors.carry.Past;
import ebb.core.application.Carrier;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Unreachable;
import ebb.core.handover.Piece;
import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.connections.Connections;
import ebb.service.reach.Reaches;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.departures.HandoverItems;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import org.hibernate.StatelessSession;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** Opens what accounts of a departure own, without becoming the person. */
@RestController
@RequestMapping("/api/v1/departures")
final class ContentController {
  private final Database database;
  private final BusinessClock clock;
  private final Departures departures;
  private final HandoverItems items;
  private final Accounts accounts;
  private final Connections connections;
  private final Journal journal;
  private final Reaches reaches;

  ContentController(
      Database database,
      BusinessClock clock,
      Departures departures,
      HandoverItems items,
      Accounts accounts,
      Connections connections,
      Journal journal,
      Reaches reaches) {
    this.database = database;
    this.clock = clock;
    this.departures = departures;
    this.items = items;
    this.accounts = accounts;
    this.connections = connections;
    this.journal = journal;
    this.reaches = reaches;
  }

  /** What is opened, of which account. */
  private record Opened(DepartureAccount part, Account account, Piece piece) {}

  /** Opens one item, as its server holds it. Who did so and why is in the journal before that. */
  @Allowed(Act.OPEN_CONTENTS)
  @PostMapping("/{id}/accounts/{account}/opened")
  ResponseEntity<StreamingResponseBody> open(
      @PathVariable long id,
      @PathVariable long account,
      @RequestBody OpenRequest request,
      Principal principal)
      throws IOException {
    reaches.requireDeparture(principal, id);
    reaches.requireNotOwn(principal, id);
    var reason = Requests.required(request.reason(), "reason");
    var item = Requests.required(request.item(), "item");
    var opened = database.read(session -> opened(session, id, account, item));
    var carrier = carrier(opened);
    database.writeAll(
        session ->
            journal.write(
                session,
                clock.instant(),
                Deed.of(
                        principal.getName(),
                        "departure %d: opened %s in %s"
                            .formatted(
                                id, opened.piece().item().name(), opened.part().application()),
                        departures.get(session, id).orElseThrow().person())
                    .because(reason)));
    var content = content(opened, carrier);
    StreamingResponseBody body =
        out -> {
          try (content) {
            content.writeTo(out);
          }
        };
    return ResponseEntity.ok()
        .contentType(type(opened.piece().item()))
        .contentLength(content.size())
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(fileName(opened.piece()), StandardCharsets.UTF_8)
                .build()
                .toString())
        .body(body);
  }

  private Opened opened(StatelessSession session, long id, long account, String item) {
    var part =
        departures
            .account(session, account)
            .filter(one -> one.departure() == id)
            .orElseThrow(
                () ->
                    Refusal.notFound(
                        "account of this departure", account, "See: ebb departures show " + id));
    var piece =
        items
            .get(session, part.id(), item)
            .orElseThrow(
                () ->
                    Refusal.notFound(
                        "item", item, "See: ebb departures items %d %d".formatted(id, account)));
    return new Opened(part, accounts.get(session, part.account()).orElseThrow(), piece);
  }

  private Carrier carrier(Opened opened) {
    var kind = opened.piece().item().kind();
    return connections.to(opened.part().application()).carriers().stream()
        .filter(one -> one.kinds().contains(kind))
        .findFirst()
        .orElseThrow(() -> Refusal.conflict(notOpenedHere(opened.part().application(), kind)));
  }

  private static Content content(Opened opened, Carrier carrier) throws IOException {
    var content = new Content();
    var isRead = false;
    try {
      isRead = carrier.open(opened.account().observed().id(), opened.piece().item().id(), content);
      if (!isRead) {
        throw new Refusal(Refusal.Kind.NOT_FOUND, ItemProblems.gone(opened.piece().item()));
      }
      return content;
    } catch (Unreachable e) {
      throw new Refusal(Refusal.Kind.UNAVAILABLE, e.problem());
    } finally {
      if (!isRead) {
        content.close();
      }
    }
  }

  private static MediaType type(Item item) {
    return switch (Past.current(item.kind())) {
      case "mail" -> MediaType.valueOf("message/rfc822");
      case "calendar", "tasks" -> MediaType.valueOf("text/calendar");
      default -> MediaType.APPLICATION_OCTET_STREAM;
    };
  }

  private static String fileName(Piece piece) {
    var name = piece.item().name();
    return Past.current(piece.item().kind()).equals("mail")
        ? name.replaceAll("[^\\p{L}\\p{N} -]", "_") + ".eml"
        : name.substring(name.lastIndexOf('/') + 1);
  }

  private static Problem notOpenedHere(String application, String kind) {
    return new Problem(
        "not-opened-here",
        "Ebb does not open %s in %s.".formatted(kind, application),
        "The application lists and hands it over itself, and gives no contents.",
        "Ask whoever looks after %s.".formatted(application),
        null);
  }
}
