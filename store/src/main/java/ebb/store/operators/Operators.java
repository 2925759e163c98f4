package ebb.store.operators;

import ebb.core.operator.Reach;
import ebb.core.operator.Role;
import ebb.core.person.PersonId;
import ebb.store.Json;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.hibernate.StatelessSession;
import tools.jackson.core.type.TypeReference;

/** Operators, and the one-time links with which they choose a password. */
public final class Operators {
  public static final List<Class<?>> ENTITIES =
      List.of(
          OperatorEntity.class,
          TokenEntity.class,
          SignInEntity.class,
          LinkEntity.class,
          AnsweredEntity.class);

  private static final TypeReference<Set<String>> WORDS = new TypeReference<>() {};

  public boolean isEmpty(StatelessSession session) {
    return session
            .createSelectionQuery("select count(*) from OperatorEntity", Long.class)
            .getSingleResult()
        == 0;
  }

  public Optional<Operator> get(StatelessSession session, String name) {
    return Optional.ofNullable(session.get(OperatorEntity.class, name)).map(Operators::operator);
  }

  public List<Operator> list(StatelessSession session) {
    return session
        .createSelectionQuery("from OperatorEntity order by name", OperatorEntity.class)
        .stream()
        .map(Operators::operator)
        .toList();
  }

  /** How many administrators may work who answer for everybody. */
  public long countAdministrators(StatelessSession session) {
    return session
        .createSelectionQuery(
            "select count(*) from OperatorEntity where role = :role and endedAt is null"
                + " and units = '[]' and kinds = '[]'",
            Long.class)
        .setParameter("role", Role.ADMINISTRATOR.word())
        .getSingleResult();
  }

  /**
   * Keeps an operator, and raises the version.
   *
   * @return false if somebody else wrote meanwhile
   */
  public boolean put(StatelessSession session, Operator operator) {
    var row = new OperatorEntity();
    row.name = operator.name();
    row.role = operator.role().word();
    row.units = Json.write(new TreeSet<>(operator.reach().units()));
    row.kinds = Json.write(new TreeSet<>(operator.reach().kinds()));
    row.personId = operator.person() == null ? null : operator.person().value();
    row.discreet = operator.discreet();
    row.passwordHash = operator.passwordHash();
    row.secondFactor = operator.secondFactor();
    row.secondFactorAsked = operator.secondFactorAsked();
    row.lastCode = operator.lastCode();
    row.createdAt = operator.createdAt();
    row.endedAt = operator.endedAt();
    row.version = operator.version() + 1;
    if (operator.version() == 0) {
      session.insert(row);
      return true;
    }
    var taken =
        session
            .createMutationQuery(
                "update OperatorEntity set version = version + 1"
                    + " where name = :name and version = :version")
            .setParameter("name", operator.name())
            .setParameter("version", operator.version())
            .executeUpdate();
    if (taken == 1) {
      session.update(row);
    }
    return taken == 1;
  }

  /** Makes a link good; those made for this operator before are none any more. */
  public void addLink(StatelessSession session, String operator, String hash, Instant expiresAt) {
    session
        .createMutationQuery("delete from LinkEntity where operator = :operator")
        .setParameter("operator", operator)
        .executeUpdate();
    var row = new LinkEntity();
    row.hash = hash;
    row.operator = operator;
    row.expiresAt = expiresAt;
    session.insert(row);
  }

  /** Whose link it is, while it is good. */
  public Optional<String> linked(StatelessSession session, String hash, Instant now) {
    return Optional.ofNullable(session.get(LinkEntity.class, hash))
        .filter(row -> row.usedAt == null && now.isBefore(row.expiresAt))
        .map(row -> row.operator);
  }

  /** Uses a link up; false if it is not good, or somebody was quicker. */
  public boolean useLink(StatelessSession session, String hash, Instant now) {
    return session
            .createMutationQuery(
                "update LinkEntity set usedAt = :now"
                    + " where hash = :hash and usedAt is null and expiresAt > :now")
            .setParameter("now", now)
            .setParameter("hash", hash)
            .executeUpdate()
        == 1;
  }

  private static Operator operator(OperatorEntity row) {
    return new Operator(
        row.name,
        Role.valueOf(row.role.toUpperCase(Locale.ROOT)),
        new Reach(Json.read(row.units, WORDS), Json.read(row.kinds, WORDS)),
        row.personId == null ? null : new PersonId(row.personId),
        row.discreet,
        row.passwordHash,
        row.secondFactor,
        row.secondFactorAsked,
        row.lastCode,
        row.createdAt,
        row.endedAt,
        row.version);
  }
}
