package ebb.service.operators;

import ebb.api.LinkView;
import ebb.core.operator.Reach;
import ebb.core.operator.Role;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.operators.Operator;
import ebb.store.operators.Operators;
import ebb.store.operators.SignIns;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** Who works with Ebb, as what and for whom. */
@Component
final class OperatorBook {
  static final String FIRST = "administrator";
  static final Duration LINK_GOOD_FOR = Duration.ofDays(1);

  private final Database database;
  private final Operators operators;
  private final SignIns signIns;
  private final SignInDesk desk;
  private final Journal journal;
  private final BusinessClock clock;
  private final int mostAdministrators;

  OperatorBook(
      Database database,
      Operators operators,
      SignIns signIns,
      SignInDesk desk,
      Journal journal,
      BusinessClock clock,
      @Value("${ebb.most-administrators}") int mostAdministrators) {
    this.database = database;
    this.operators = operators;
    this.signIns = signIns;
    this.desk = desk;
    this.journal = journal;
    this.clock = clock;
    this.mostAdministrators = mostAdministrators;
  }

  List<Operator> list() {
    return database.read(operators::list);
  }

  Operator get(String name) {
    return database
        .read(session -> operators.get(session, name))
        .orElseThrow(() -> Refusal.notFound("operator", name, "See the list of operators."));
  }

  /**
   * Makes an operator, or changes what one may do.
   *
   * @param version the one the caller saw; null to take the one there is
   */
  Operator put(
      String name,
      Long version,
      Role role,
      Reach reach,
      Long person,
      boolean discreet,
      boolean ended,
      String by) {
    checkName(name);
    database.writeAll(
        session -> {
          var before = operators.get(session, name);
          Requests.expect("Operator " + name, version, before.map(Operator::version).orElse(0L));
          var now = Instant.now();
          var next =
              before
                  .orElseGet(() -> Operator.named(name, role, now))
                  .granted(
                      role,
                      reach,
                      person == null ? null : new PersonId(person),
                      discreet,
                      ended ? now : null);
          operators.put(session, next);
          if (operators.countAdministrators(session) == 0) {
            throw Refusal.conflict(lastAdministrator(name));
          }
          if (ended) {
            signIns.endAll(session, name, null);
          }
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  by,
                  ended
                      ? "ended operator " + name
                      : "operator %s is %s for %s%s"
                          .formatted(
                              name,
                              role.word(),
                              reach.words(),
                              discreet ? ", discreet cases included" : "")));
        });
    return get(name);
  }

  /** A link with which an operator chooses a password. */
  LinkView link(String name, String address, String by) {
    return database.write(
        session -> {
          operators
              .get(session, name)
              .filter(one -> one.endedAt() == null)
              .orElseThrow(() -> Refusal.notFound("operator", name, "See the list of operators."));
          var expiresAt = Instant.now().plus(LINK_GOOD_FOR);
          var text = desk.link(session, name, expiresAt);
          journal.write(session, clock.instant(), Deed.of(by, "made a sign-in link for " + name));
          // After the # nothing is sent to a server, and nothing is logged.
          return new LinkView(name, address + "/welcome#" + text, expiresAt);
        });
  }

  /** The first administrator, where there is no operator yet; the name of one to send a link to. */
  Optional<String> first() {
    return database.write(
        session -> {
          if (operators.isEmpty(session)) {
            operators.put(session, Operator.named(FIRST, Role.ADMINISTRATOR, Instant.now()));
          }
          var all = operators.list(session);
          return all.stream().anyMatch(one -> one.passwordHash() != null)
              ? Optional.empty()
              : all.stream()
                  .filter(one -> one.role() == Role.ADMINISTRATOR)
                  .map(Operator::name)
                  .findFirst();
        });
  }

  /** What is to be said of how many administrators there are. */
  Optional<String> warning() {
    var count = database.read(operators::countAdministrators);
    return count > mostAdministrators
        ? Optional.of(
            "There are %d administrators, more than the limit of %d: each can do everything."
                .formatted(count, mostAdministrators))
        : Optional.empty();
  }

  private static void checkName(String name) {
    if (!name.matches("[\\p{L}\\p{N}][\\p{L}\\p{N}._@-]{0,99}") || name.equals("ebb")) {
      throw Refusal.invalid(
          new Problem(
              "name-invalid",
              "%s is no name for an operator.".formatted(name),
              "Names are letters, digits, and . _ @ -, at most 100; ebb is Ebb itself.",
              "Choose another; a work address will do.",
              Where.field("name")));
    }
  }

  private static Problem lastAdministrator(String name) {
    return new Problem(
        "last-administrator",
        "%s is the last administrator who answers for everybody.".formatted(name),
        "Nobody could look after operators and settings any more.",
        "Make somebody else administrator first.",
        null);
  }
}
