package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.controls.AssertionRequestControl;
import com.unboundid.ldap.sdk.controls.ContentSyncRequestControl;
import com.unboundid.ldap.sdk.controls.PostReadRequestControl;
import com.unboundid.ldap.sdk.experimental.DraftBeheraLDAPPasswordPolicy10RequestControl;
import com.unboundid.ldap.sdk.extensions.PasswordModifyExtendedRequest;
import com.unboundid.ldap.sdk.schema.AttributeTypeDefinition;
import com.unboundid.ldap.sdk.schema.ObjectClassDefinition;
import com.unboundid.ldap.sdk.schema.Schema;
import ebb.core.application.Equality;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * What a directory says of itself: its root entry (RFC 4512, 5.1) and its schema (RFC 4512, 4).
 *
 * @param offered object identifiers of controls and extended operations
 * @param contexts the tops of what it holds
 * @param schema null if it shows none
 */
record LdapFeatures(Set<String> offered, List<DN> contexts, Schema schema) {
  private static final Set<String> NAMES_OF_ENTRIES =
      Set.of("manager", "secretary", "owner", "seealso", "member", "uniquemember", "roleoccupant");

  /** Directory string and IA5 string (RFC 4517, 3.3.6 and 3.3.15). */
  private static final Set<String> SYNTAXES_OF_TEXT =
      Set.of("1.3.6.1.4.1.1466.115.121.1.15", "1.3.6.1.4.1.1466.115.121.1.26");

  private static final Set<String> SYNTAXES_OF_NAMES =
      Set.of("1.3.6.1.4.1.1466.115.121.1.12", "1.3.6.1.4.1.1466.115.121.1.34");

  static LdapFeatures of(LDAPConnection connection) throws LDAPException {
    var offered = new HashSet<String>();
    var contexts = new ArrayList<DN>();
    var root = connection.getRootDSE();
    if (root != null) {
      addAll(offered, root.getSupportedControlOIDs());
      addAll(offered, root.getSupportedExtendedOperationOIDs());
      for (var context : Entries.texts(root, "namingContexts")) {
        contexts.add(new DN(context));
      }
    }
    return new LdapFeatures(offered, contexts, connection.getSchema());
  }

  private static void addAll(Set<String> offered, String[] more) {
    if (more != null) {
      offered.addAll(Arrays.asList(more));
    }
  }

  /** RFC 4528. */
  boolean asserts() {
    return offered.contains(AssertionRequestControl.ASSERTION_REQUEST_OID);
  }

  /** RFC 4527. */
  boolean readsAfterwards() {
    return offered.contains(PostReadRequestControl.POST_READ_REQUEST_OID);
  }

  /** RFC 4533. */
  boolean syncs() {
    return offered.contains(ContentSyncRequestControl.SYNC_REQUEST_OID);
  }

  /** RFC 3062. */
  boolean setsPasswords() {
    return offered.contains(PasswordModifyExtendedRequest.PASSWORD_MODIFY_REQUEST_OID);
  }

  boolean hasPasswordPolicy() {
    return offered.contains(
        DraftBeheraLDAPPasswordPolicy10RequestControl.PASSWORD_POLICY_REQUEST_OID);
  }

  /** Equality as the directory's own matching rules have it (RFC 4517, 4.2). */
  Equality equality(String attribute) {
    var type = type(attribute);
    var rule = type == null ? null : type.getEqualityMatchingRule(schema);
    return switch (rule == null ? "" : rule.toLowerCase(Locale.ROOT)) {
      case "caseignorematch",
          "caseignoreia5match",
          "caseignorelistmatch",
          "booleanmatch",
          "2.5.13.2",
          "2.5.13.11",
          "2.5.13.13",
          "1.3.6.1.4.1.1466.109.114.2" ->
          Equality.IGNORE_CASE_AND_SPACE;
      case "telephonenumbermatch", "2.5.13.20" -> Equality.TELEPHONE;
      default -> Equality.EXACT;
    };
  }

  /** Whether values can be compared there at all. */
  boolean isComparable(String attribute) {
    var type = type(attribute);
    return type != null && type.getEqualityMatchingRule(schema) != null;
  }

  /** Whether its values are names of other entries. */
  boolean isReference(String attribute) {
    var type = type(attribute);
    return type == null
        ? NAMES_OF_ENTRIES.contains(attribute.toLowerCase(Locale.ROOT))
        : SYNTAXES_OF_NAMES.contains(type.getBaseSyntaxOID(schema));
  }

  /** Whether its values are any text at all. */
  boolean isText(String attribute) {
    var type = type(attribute);
    return type != null && SYNTAXES_OF_TEXT.contains(type.getBaseSyntaxOID(schema));
  }

  boolean knows(String attribute) {
    return schema == null || type(attribute) != null;
  }

  /** Whether entries of these classes can have it, and clients may set it. */
  boolean isWritable(String attribute, List<String> objectClasses) {
    if (schema == null) {
      return true;
    }
    var type = type(attribute);
    return type != null
        && !type.isNoUserModification()
        && (type.isOperational()
            || classes(objectClasses).stream()
                .anyMatch(
                    one ->
                        one.hasNameOrOID("extensibleObject")
                            || one.getRequiredAttributes(schema, true).contains(type)
                            || one.getOptionalAttributes(schema, true).contains(type)));
  }

  /** Whether an entry of these classes must have it. */
  boolean isRequired(String attribute, List<String> objectClasses) {
    return schema != null
        && named(objectClasses, one -> one.getRequiredAttributes(schema, true))
            .contains(type(attribute));
  }

  /** Classes that are asked for and not there. */
  List<String> unknown(List<String> objectClasses) {
    return schema == null
        ? List.of()
        : objectClasses.stream().filter(one -> schema.getObjectClass(one) == null).toList();
  }

  private Set<AttributeTypeDefinition> named(
      List<String> objectClasses,
      Function<ObjectClassDefinition, Set<AttributeTypeDefinition>> which) {
    return classes(objectClasses).stream()
        .flatMap(one -> which.apply(one).stream())
        .collect(Collectors.toSet());
  }

  private List<ObjectClassDefinition> classes(List<String> names) {
    return names.stream().map(schema::getObjectClass).filter(one -> one != null).toList();
  }

  private AttributeTypeDefinition type(String attribute) {
    return schema == null ? null : schema.getAttributeType(attribute);
  }
}
