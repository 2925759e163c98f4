package ebb.store.notices;

import ebb.core.notice.Ask;
import ebb.core.notice.Notice;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.Among;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.hibernate.StatelessSession;

/** The one outbox, and the asks sent with it. */
public final class Notices {
  public static final List<Class<?>> ENTITIES = List.of(NoticeEntity.class, AskEntity.class);

  /**
   * Puts a notice into the outbox.
   *
   * @param recipient null where nobody can be reached, which the list then shows
   * @param about the page of the console it leads to; null where it asks for something
   */
  public void add(
      StatelessSession session,
      PersonId person,
      Notice.Kind kind,
      String recipient,
      String subject,
      String about,
      Instant at) {
    session.insert(
        row(Numbers.next(session, "notice_seq"), person, kind, recipient, subject, about, at));
  }

  /**
   * Puts the same notice to many people into the outbox.
   *
   * @param recipients by the person it is about; null where nobody can be reached
   */
  public void addAll(
      StatelessSession session,
      Map<PersonId, String> recipients,
      Notice.Kind kind,
      String subject,
      Instant at) {
    var numbers = Numbers.take(session, "notice_seq", recipients.size());
    var rows = new ArrayList<NoticeEntity>();
    recipients.forEach(
        (person, recipient) ->
            rows.add(row(numbers.pop(), person, kind, recipient, subject, null, at)));
    session.insertMultiple(rows);
  }

  private static NoticeEntity row(
      long id,
      PersonId person,
      Notice.Kind kind,
      String recipient,
      String subject,
      String about,
      Instant at) {
    var row = new NoticeEntity();
    row.id = id;
    row.personId = person.value();
    row.kind = kind.name();
    row.recipient = recipient;
    row.subject = subject;
    row.about = about;
    row.state = (recipient == null ? Notice.State.UNDELIVERABLE : Notice.State.WAITING).name();
    row.due = Instant.EPOCH;
    row.createdAt = at;
    return row;
  }

  /** Those of the people who got or get a notice of this kind. */
  public Set<PersonId> having(
      StatelessSession session, Notice.Kind kind, Collection<PersonId> people) {
    var having = new HashSet<PersonId>();
    Among.each(
        session,
        "select person_id, kind from notice where person_id in (%s)",
        people.stream().map(PersonId::value).toList(),
        row -> {
          if (row.getString(2).equals(kind.name())) {
            having.add(new PersonId(row.getLong(1)));
          }
        });
    return having;
  }

  /** Whether somebody was told of this about a person, or will be. */
  public boolean has(StatelessSession session, PersonId person, Notice.Kind kind, String subject) {
    return session
            .createSelectionQuery(
                "select count(*) from NoticeEntity"
                    + " where personId = :person and kind = :kind and subject = :subject",
                Long.class)
            .setParameter("person", person.value())
            .setParameter("kind", kind.name())
            .setParameter("subject", subject)
            .getSingleResult()
        > 0;
  }

  /** Where a notice went; empty if there is no such notice, or nobody could be reached. */
  public Optional<String> address(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(NoticeEntity.class, id)).map(row -> row.recipient);
  }

  public long count(StatelessSession session, Notice.State state) {
    return session
        .createSelectionQuery("select count(*) from NoticeEntity where state = :state", Long.class)
        .setParameter("state", state.name())
        .getSingleResult();
  }

  /** Claims notices that are due; nobody else gets them until the lease ends. */
  public List<Notice> claim(StatelessSession session, Instant now, Instant leaseUntil, int max) {
    return session
        .createSelectionQuery(
            "from NoticeEntity where state = 'WAITING' and due <= :now order by state, due, id",
            NoticeEntity.class)
        .setParameter("now", now)
        .setMaxResults(max)
        .list()
        .stream()
        .filter(row -> lease(session, row, leaseUntil))
        .map(Notices::notice)
        .toList();
  }

  private static boolean lease(StatelessSession session, NoticeEntity row, Instant until) {
    return session
            .createMutationQuery(
                "update NoticeEntity set due = :until, version = version + 1"
                    + " where id = :id and version = :version and state = 'WAITING'")
            .setParameter("until", until)
            .setParameter("id", row.id)
            .setParameter("version", row.version)
            .executeUpdate()
        == 1;
  }

  /** Ends all leases: whoever held them is known to have died. What waits is tried at once. */
  public void endLeases(StatelessSession session) {
    session
        .createMutationQuery(
            "update NoticeEntity set due = :epoch, version = version + 1 where state = 'WAITING'")
        .setParameter("epoch", Instant.EPOCH)
        .executeUpdate();
  }

  public void sent(StatelessSession session, long id, Instant at) {
    session
        .createMutationQuery(
            "update NoticeEntity set state = 'SENT', sentAt = :at, attempts = attempts + 1,"
                + " problem = null, version = version + 1 where id = :id")
        .setParameter("at", at)
        .setParameter("id", id)
        .executeUpdate();
  }

  public void failed(StatelessSession session, long id, Problem problem, Instant nextTry) {
    session
        .createMutationQuery(
            "update NoticeEntity set due = :due, attempts = attempts + 1, problem = :problem,"
                + " version = version + 1 where id = :id")
        .setParameter("due", nextTry)
        .setParameter("problem", Json.write(problem))
        .setParameter("id", id)
        .executeUpdate();
  }

  /**
   * Newest first.
   *
   * @param person null for all
   */
  public Page<Notice> list(
      StatelessSession session, PersonId person, Reach reach, Long before, int limit) {
    var within = ReachClause.on("personId", reach);
    var query =
        session
            .createSelectionQuery(
                "from NoticeEntity where id < :before"
                    + (person == null ? "" : " and personId = :person")
                    + within.within()
                    + " order by id desc",
                NoticeEntity.class)
            .setParameter("before", before == null ? Long.MAX_VALUE : before)
            .setMaxResults(limit + 1);
    if (person != null) {
      query.setParameter("person", person.value());
    }
    var rows = within.fill(query).list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(Notices::notice).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /** Notices that could not be delivered, newest first. */
  public List<Notice> undeliverable(StatelessSession session, Reach reach, int limit) {
    var within = ReachClause.on("personId", reach);
    return within
        .fill(
            session
                .createSelectionQuery(
                    "from NoticeEntity where state = 'UNDELIVERABLE'"
                        + within.within()
                        + " order by id desc",
                    NoticeEntity.class)
                .setMaxResults(limit))
        .stream()
        .map(Notices::notice)
        .toList();
  }

  /** Opens an ask; earlier ones of the same person and kind that are open end with it. */
  public void open(StatelessSession session, Ask ask) {
    session
        .createMutationQuery(
            "update AskEntity set expiresAt = :epoch"
                + " where personId = :person and kind = :kind and usedAt is null")
        .setParameter("epoch", Instant.EPOCH)
        .setParameter("person", ask.person().value())
        .setParameter("kind", ask.kind().name())
        .executeUpdate();
    var row = new AskEntity();
    row.tokenHash = ask.tokenHash();
    row.noticeId = ask.notice();
    row.personId = ask.person().value();
    row.kind = ask.kind().name();
    row.expiresAt = ask.expiresAt();
    session.insert(row);
  }

  public Optional<Ask> ask(StatelessSession session, String tokenHash) {
    return Optional.ofNullable(session.get(AskEntity.class, tokenHash))
        .map(
            row ->
                new Ask(
                    row.tokenHash,
                    row.noticeId,
                    new PersonId(row.personId),
                    Notice.Kind.valueOf(row.kind),
                    row.expiresAt,
                    row.usedAt,
                    row.tries));
  }

  /** Marks an ask as used; false if it was used already. */
  public boolean use(StatelessSession session, String tokenHash, Instant at) {
    return session
            .createMutationQuery(
                "update AskEntity set usedAt = :at where tokenHash = :hash and usedAt is null")
            .setParameter("at", at)
            .setParameter("hash", tokenHash)
            .executeUpdate()
        == 1;
  }

  /** Opens a used ask again: what it asked for could not be carried out. */
  public void reopen(StatelessSession session, String tokenHash) {
    session
        .createMutationQuery(
            "update AskEntity set usedAt = null, tries = tries + 1 where tokenHash = :hash")
        .setParameter("hash", tokenHash)
        .executeUpdate();
  }

  public void countTry(StatelessSession session, String tokenHash) {
    session
        .createMutationQuery("update AskEntity set tries = tries + 1 where tokenHash = :hash")
        .setParameter("hash", tokenHash)
        .executeUpdate();
  }

  private static Notice notice(NoticeEntity row) {
    return new Notice(
        row.id,
        new PersonId(row.personId),
        Notice.Kind.valueOf(row.kind),
        row.recipient,
        row.subject,
        row.about,
        Notice.State.valueOf(row.state),
        row.attempts,
        Json.read(row.problem, Problem.class),
        row.createdAt,
        row.sentAt);
  }
}
