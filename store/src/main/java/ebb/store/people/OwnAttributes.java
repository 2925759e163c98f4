package ebb.store.people;

import ebb.core.person.Attribute;
import ebb.core.person.ByHand;
import ebb.core.person.Catalogue;
import ebb.store.Json;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import tools.jackson.core.type.TypeReference;

/** The attributes an organisation defined for itself, and how it has the standard ones set. */
public final class OwnAttributes {
  /**
   * @param version the ETag; 0 for one that is new
   */
  public record Kept(Attribute attribute, long version) {}

  public List<Kept> list(StatelessSession session) {
    return session
        .createSelectionQuery("from AttributeEntity order by name", AttributeEntity.class)
        .stream()
        .map(OwnAttributes::kept)
        .toList();
  }

  public Optional<Kept> get(StatelessSession session, String name) {
    return Optional.ofNullable(session.get(AttributeEntity.class, name)).map(OwnAttributes::kept);
  }

  /** The standard attributes, as they are set here, and these. */
  public Catalogue catalogue(StatelessSession session) {
    return Catalogue.with(
        Stream.concat(standard(session).stream(), list(session).stream())
            .map(Kept::attribute)
            .toList());
  }

  /** Standard attributes that are set by hand in another way than usual. */
  public List<Kept> standard(StatelessSession session) {
    return session
        .createSelectionQuery(
            "from StandardAttributeEntity order by name", StandardAttributeEntity.class)
        .stream()
        .flatMap(
            row ->
                Catalogue.STANDARD
                    .find(row.name)
                    .map(
                        standard ->
                            new Kept(standard.setBy(ByHand.valueOf(row.byHand)), row.version))
                    .stream())
        .toList();
  }

  /** Keeps how a standard attribute is set by hand, under the next version. */
  public void putStandard(StatelessSession session, String name, ByHand hand, long version) {
    var row = new StandardAttributeEntity();
    row.name = name;
    row.byHand = hand.name();
    row.version = version + 1;
    session.upsert(row);
  }

  /** Keeps an attribute under the next version. */
  public void put(StatelessSession session, Attribute attribute, long version) {
    var row = new AttributeEntity();
    row.name = attribute.name();
    row.type = attribute.type().name();
    row.required = attribute.required();
    row.fallback = attribute.fallback();
    row.searchable = attribute.searchable();
    row.byHand = attribute.byHand().name();
    row.choices = Json.write(attribute.choices());
    row.version = version + 1;
    session.upsert(row);
  }

  /** How many people have a value for an attribute that is searchable. */
  public long countValues(StatelessSession session, String name) {
    return session
        .createSelectionQuery(
            "select count(*) from PersonValueEntity where id.name = :name", Long.class)
        .setParameter("name", name)
        .getSingleResult();
  }

  private static Kept kept(AttributeEntity row) {
    return new Kept(
        new Attribute(
            row.name,
            Attribute.Type.valueOf(row.type),
            row.required,
            row.fallback,
            row.searchable,
            ByHand.valueOf(row.byHand),
            Json.read(row.choices, new TypeReference<List<String>>() {}),
            true),
        row.version);
  }
}
