package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.SearchResultEntry;
import ebb.core.application.Unreachable;
import java.util.LinkedHashMap;
import java.util.Map;

/** Ids of entries that others refer to, by their names: those met last, and looked up ones. */
final class Known {
  private static final int MOST = 50_000;

  private final Directory directory;
  private final Map<String, String> ids =
      new LinkedHashMap<>(16, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, String> eldest) {
          return size() > MOST;
        }
      };

  Known(Directory directory) {
    this.directory = directory;
  }

  void add(SearchResultEntry entry) {
    add(entry.getDN(), entry.getAttributeValue(Entries.ID));
  }

  void add(String dn, String id) {
    ids.put(Entries.normal(dn), id);
  }

  /** A reference that leads nowhere stays readable as the name it is. */
  String id(String dn) throws Unreachable {
    var normal = Entries.normal(dn);
    var id = ids.get(normal);
    if (id == null) {
      id =
          directory
              .entry(dn, Entries.ID)
              .map(there -> there.getAttributeValue(Entries.ID))
              .orElse(dn);
      ids.put(normal, id);
    }
    return id;
  }
}
