package ebb.service.push;

import com.unboundid.scim2.common.types.AttributeDefinition;
import com.unboundid.scim2.common.types.EnterpriseUserExtension;
import com.unboundid.scim2.common.types.GroupResource;
import com.unboundid.scim2.common.types.SchemaResource;
import com.unboundid.scim2.common.types.UserResource;
import com.unboundid.scim2.common.utils.SchemaUtils;
import ebb.core.person.Attribute;
import ebb.core.person.Catalogue;
import ebb.store.push.Resource;
import java.beans.IntrospectionException;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * What can be said of people and groups: the parts of RFC 7643 that tell who somebody is, and an
 * extension with whatever else Ebb knows of people. Nothing of how they sign in: that is ours to
 * say.
 */
final class PushSchemas {
  static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
  static final String GROUP = "urn:ietf:params:scim:schemas:core:2.0:Group";
  static final String ENTERPRISE = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";
  static final String PERSON = "urn:ebb:scim:schemas:extension:person:1.0:User";

  private static final Set<String> OF_USERS =
      Set.of(
          "userName",
          "name",
          "displayName",
          "nickName",
          "profileUrl",
          "title",
          "userType",
          "preferredLanguage",
          "locale",
          "timezone",
          "active",
          "emails",
          "phoneNumbers",
          "addresses");

  private static final SchemaResource USERS =
      of(UserResource.class, "What is said of a person.", one -> OF_USERS.contains(one.getName()));
  private static final SchemaResource GROUPS =
      of(GroupResource.class, "Who belongs together.", _ -> true);
  private static final SchemaResource EMPLOYEES =
      of(EnterpriseUserExtension.class, "What is said of an employee.", _ -> true);

  private final SchemaResource people;

  PushSchemas(Catalogue catalogue) {
    this.people =
        schema(
            PERSON,
            "Person",
            "What else is known of a person here.",
            catalogue.all().stream()
                .filter(attribute -> isNowhereElse(attribute.name()))
                .map(PushSchemas::definition)
                .toList());
  }

  private static boolean isNowhereElse(String attribute) {
    var first = first(attribute);
    return find(USERS, first).isEmpty() && find(EMPLOYEES, first).isEmpty();
  }

  /** The outermost part of a name with dots. */
  static String first(String attribute) {
    var dot = attribute.indexOf('.');
    return dot < 0 ? attribute : attribute.substring(0, dot);
  }

  List<SchemaResource> all() {
    return List.of(USERS, EMPLOYEES, people, GROUPS);
  }

  static SchemaResource core(Resource.Kind kind) {
    return kind == Resource.Kind.USER ? USERS : GROUPS;
  }

  List<SchemaResource> extensions(Resource.Kind kind) {
    return kind == Resource.Kind.USER ? List.of(EMPLOYEES, people) : List.of();
  }

  /** In which schema of people an attribute stands; the extension for what is in none of others. */
  static String schemaOf(String attribute) {
    var first = first(attribute);
    return find(USERS, first).isPresent()
        ? USER
        : find(EMPLOYEES, first).isPresent() ? ENTERPRISE : PERSON;
  }

  private static Optional<AttributeDefinition> find(SchemaResource schema, String name) {
    return find(schema.getAttributes(), name);
  }

  /** Names are compared without regard to letter case (RFC 7643, section 2.1). */
  static Optional<AttributeDefinition> find(
      Collection<AttributeDefinition> attributes, String name) {
    return attributes.stream().filter(one -> one.getName().equalsIgnoreCase(name)).findFirst();
  }

  private interface Which {
    boolean is(AttributeDefinition attribute);
  }

  private static SchemaResource of(Class<?> type, String description, Which which) {
    try {
      var whole = SchemaUtils.getSchema(type);
      return schema(
          whole.getId(),
          whole.getName(),
          description,
          whole.getAttributes().stream().filter(which::is).toList());
    } catch (IntrospectionException e) {
      throw new IllegalStateException("The library cannot describe its own " + type, e);
    }
  }

  private static SchemaResource schema(
      String id, String name, String description, List<AttributeDefinition> attributes) {
    return new SchemaResource(id, name, description, attributes);
  }

  private static AttributeDefinition definition(Attribute attribute) {
    var definition =
        new AttributeDefinition.Builder()
            .setName(attribute.name())
            .setType(
                switch (attribute.type()) {
                  case YES_NO -> AttributeDefinition.Type.BOOLEAN;
                  case NUMBER -> AttributeDefinition.Type.DECIMAL;
                  default -> AttributeDefinition.Type.STRING;
                })
            .setDescription(
                Stream.of(
                        attribute.own() ? "Defined by this organisation." : "Known to Ebb.",
                        attribute.type() == Attribute.Type.DATE ? "A day, as 2027-03-31." : "")
                    .filter(text -> !text.isEmpty())
                    .reduce("%s %s"::formatted)
                    .orElseThrow())
            .setMutability(AttributeDefinition.Mutability.READ_WRITE)
            .setReturned(AttributeDefinition.Returned.DEFAULT)
            .setUniqueness(AttributeDefinition.Uniqueness.NONE);
    if (!attribute.choices().isEmpty()) {
      definition.addCanonicalValues(attribute.choices().toArray(String[]::new));
    }
    return definition.build();
  }
}
