package ebb.store.people;

import ebb.core.name.LoginScheme;
import ebb.store.Json;
import java.time.Instant;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** How logins are made, and were made before. */
public final class LoginSchemes {
  /**
   * A scheme that was set.
   *
   * @param by who set it
   */
  public record Kept(LoginScheme scheme, String by, Instant at) {}

  /** The one in force; empty while it is the usual one and no other was ever set. */
  public Optional<Kept> latest(StatelessSession session) {
    return session
        .createSelectionQuery(
            "from LoginSchemeEntity order by number desc", LoginSchemeEntity.class)
        .setMaxResults(1)
        .uniqueResultOptional()
        .map(LoginSchemes::kept);
  }

  public LoginScheme inForce(StatelessSession session) {
    return latest(session).map(Kept::scheme).orElse(LoginScheme.USUAL);
  }

  /**
   * The one by which a name was made.
   *
   * @throws java.util.NoSuchElementException if there never was one of this number
   */
  public LoginScheme numbered(StatelessSession session, int number) {
    return number == LoginScheme.USUAL.number()
        ? LoginScheme.USUAL
        : Optional.ofNullable(session.get(LoginSchemeEntity.class, number))
            .map(row -> kept(row).scheme())
            .orElseThrow();
  }

  /** Puts a scheme in force, under the next number. */
  public void put(StatelessSession session, LoginScheme scheme, String by, Instant at) {
    var next =
        new LoginScheme(
            inForce(session).number() + 1,
            scheme.expressions(),
            scheme.longest(),
            scheme.reserved(),
            scheme.restDays());
    var row = new LoginSchemeEntity();
    row.number = next.number();
    row.body = Json.write(next);
    row.setBy = by;
    row.setAt = at;
    session.insert(row);
  }

  private static Kept kept(LoginSchemeEntity row) {
    return new Kept(Json.read(row.body, LoginScheme.class), row.setBy, row.setAt);
  }
}
