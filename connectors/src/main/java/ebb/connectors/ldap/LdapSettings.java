package ebb.connectors.ldap;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/**
 * How one directory is laid out.
 *
 * @param attributes the name rules use to the directory's attribute
 * @param naming the directory attribute that names an entry, as in "uid"
 * @param switchAttribute says whether an entry may be used
 * @param originAttribute where Ebb leaves its own id
 */
record LdapSettings(
    String host,
    int port,
    String bindDn,
    String people,
    String groups,
    List<String> objectClasses,
    String naming,
    Map<String, String> attributes,
    String switchAttribute,
    String usable,
    String unusable,
    String originAttribute) {

  /** Standard names (RFC 4519, RFC 2798), which the setting "attributes" can change. */
  private static final Map<String, String> STANDARD =
      new LinkedHashMap<>(
          Map.ofEntries(
              Map.entry("userName", "uid"),
              Map.entry("name.givenName", "givenName"),
              Map.entry("name.familyName", "sn"),
              Map.entry("name.formatted", "cn"),
              Map.entry("displayName", "displayName"),
              Map.entry("title", "title"),
              Map.entry("department", "ou"),
              Map.entry("employeeNumber", "employeeNumber"),
              Map.entry("userType", "employeeType"),
              Map.entry("emails.work", "mail"),
              Map.entry("phoneNumbers.mobile", "mobile"),
              Map.entry("description", "description"),
              Map.entry("location", "l"),
              Map.entry("manager", "manager")));

  static LdapSettings of(Map<String, String> settings) {
    return new LdapSettings(
        settings.getOrDefault("host", "localhost"),
        Integer.parseInt(settings.getOrDefault("port", "389")),
        settings.get("bindDn"),
        settings.get("people"),
        settings.get("groups"),
        list(settings.getOrDefault("objectClasses", "inetOrgPerson")),
        settings.getOrDefault("naming", "uid"),
        attributes(settings.getOrDefault("attributes", "")),
        settings.get("switchAttribute"),
        settings.getOrDefault("usable", "TRUE"),
        settings.getOrDefault("unusable", "FALSE"),
        settings.getOrDefault("originAttribute", "employeeNumber"));
  }

  /** Attributes whose values are names of other entries. */
  static boolean isReference(String name) {
    return name.equals("manager");
  }

  String[] read() {
    var names = new TreeSet<>(attributes.values());
    names.addAll(List.of("entryUUID", originAttribute));
    if (switchAttribute != null) {
      names.add(switchAttribute);
    }
    return names.toArray(String[]::new);
  }

  private static Map<String, String> attributes(String pairs) {
    var all = new LinkedHashMap<>(STANDARD);
    for (var pair : list(pairs)) {
      var at = pair.indexOf('=');
      all.put(pair.substring(0, at), pair.substring(at + 1));
    }
    return all;
  }

  private static List<String> list(String commaSeparated) {
    return Arrays.stream(commaSeparated.split(","))
        .map(String::strip)
        .filter(s -> !s.isEmpty())
        .toList();
  }
}
