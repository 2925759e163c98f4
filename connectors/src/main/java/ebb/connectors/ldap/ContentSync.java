package ebb.connectors.ldap;

import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.IntermediateResponse;
import com.unboundid.ldap.sdk.IntermediateResponseListener;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchResultListener;
import com.unboundid.ldap.sdk.SearchResultReference;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.controls.ContentSyncDoneControl;
import com.unboundid.ldap.sdk.controls.ContentSyncInfoIntermediateResponse;
import com.unboundid.ldap.sdk.controls.ContentSyncRequestControl;
import com.unboundid.ldap.sdk.controls.ContentSyncRequestMode;
import com.unboundid.ldap.sdk.controls.ContentSyncStateControl;
import ebb.core.application.Unreachable;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/** What changed in a directory since a cookie was given out (RFC 4533, refresh only). */
final class ContentSync {
  /** Where OpenLDAP keeps how far it is; its cookies are made of that. */
  private static final String HOW_FAR = "contextCSN";

  private static final String COOKIE = "rid=000,csn=%s";

  private final Directory directory;

  ContentSync(Directory directory) {
    this.directory = directory;
  }

  /** What came of one or several bases. */
  static final class Changes {
    private final Map<String, SearchResultEntry> changed = new LinkedHashMap<>();
    private final Set<String> present = new LinkedHashSet<>();
    private final Set<String> gone = new LinkedHashSet<>();
    private boolean withPresent;
    private String cookie;

    List<SearchResultEntry> changed() {
      return List.copyOf(changed.values());
    }

    /** Those that did not change, if the server names these instead of those that are gone. */
    Set<String> present() {
      return present;
    }

    /** What left one base may have come to the other. */
    Set<String> gone() {
      gone.removeAll(changed.keySet());
      return gone;
    }

    boolean isWithPresent() {
      return withPresent;
    }

    /** That nobody is there any more is not believed without a look. */
    boolean isClear() {
      return !withPresent || !present.isEmpty() || !changed.isEmpty();
    }

    /** Null if nothing changed. */
    String cookie() {
      return cookie;
    }
  }

  /**
   * The cookie of this moment, without reading anything: a first reading by pages is twice as fast
   * as one by content sync.
   *
   * @return empty where the server does not offer it, or does not say how far it is
   */
  Optional<String> now() throws Unreachable {
    if (!directory.features().syncs()) {
      return Optional.empty();
    }
    for (var context : directory.features().contexts()) {
      if (directory.settings().people().isDescendantOf(context, true)) {
        return directory
            .entry(context.toString(), HOW_FAR)
            .map(entry -> Entries.texts(entry, HOW_FAR))
            .filter(numbers -> !numbers.isEmpty())
            .map(numbers -> COOKIE.formatted(String.join(";", numbers)));
      }
    }
    return Optional.empty();
  }

  /**
   * Adds what changed below a base.
   *
   * @return false if the server does not take the cookie any more
   */
  boolean since(String cookie, DN base, Filter filter, Changes to, String... names)
      throws Unreachable {
    return directory
        .reading(
            connection -> {
              var listening = new Listening(to);
              var request =
                  new SearchRequest(listening, base.toString(), SearchScope.SUB, filter, names);
              request.setIntermediateResponseListener(listening);
              request.addControl(
                  new ContentSyncRequestControl(
                      ContentSyncRequestMode.REFRESH_ONLY, new ASN1OctetString(cookie), false));
              try {
                var result = connection.search(request);
                var done = ContentSyncDoneControl.get(result);
                if (done != null) {
                  listening.done(done);
                }
                return true;
              } catch (LDAPException e) {
                if (isRefused(e)) {
                  return false;
                }
                throw e;
              }
            })
        .orElse(false);
  }

  /**
   * It is too old, of another server, or no cookie at all; or more changed than may be read without
   * pages.
   */
  private static boolean isRefused(LDAPException e) {
    return e.getResultCode() == ResultCode.SIZE_LIMIT_EXCEEDED
        || e.getResultCode() == ResultCode.E_SYNC_REFRESH_REQUIRED
        || e.getResultCode() == ResultCode.PROTOCOL_ERROR
        || e.getResultCode() == ResultCode.UNWILLING_TO_PERFORM;
  }

  private static final class Listening
      implements SearchResultListener, IntermediateResponseListener {
    private final Changes to;

    Listening(Changes to) {
      this.to = to;
    }

    @Override
    public void searchEntryReturned(SearchResultEntry entry) {
      try {
        var state = ContentSyncStateControl.get(entry);
        var id = state.getEntryUUID().toString();
        switch (state.getState()) {
          case ADD, MODIFY -> to.changed.put(id, entry);
          case PRESENT -> to.present.add(id);
          case DELETE -> to.gone.add(id);
        }
      } catch (LDAPException e) {
        throw new IllegalStateException("An entry says nothing of its state", e);
      }
    }

    @Override
    public void searchReferenceReturned(SearchResultReference reference) {
      // Entries elsewhere are for whoever keeps them.
    }

    @Override
    public void intermediateResponseReturned(IntermediateResponse response) {
      try {
        var info = ContentSyncInfoIntermediateResponse.decode(response);
        switch (info.getType()) {
          case NEW_COOKIE, REFRESH_DELETE -> keep(info.getCookie());
          case REFRESH_PRESENT -> {
            to.withPresent = true;
            keep(info.getCookie());
          }
          case SYNC_ID_SET -> {
            to.withPresent |= !info.refreshDeletes();
            var ids = info.refreshDeletes() ? to.gone : to.present;
            info.getEntryUUIDs().stream().map(UUID::toString).forEach(ids::add);
            keep(info.getCookie());
          }
        }
      } catch (LDAPException e) {
        throw new IllegalStateException("What the server says of the sync cannot be read", e);
      }
    }

    void done(ContentSyncDoneControl done) {
      to.withPresent |= !done.refreshDeletes();
      keep(done.getCookie());
    }

    private void keep(ASN1OctetString cookie) {
      if (cookie != null) {
        to.cookie = cookie.stringValue();
      }
    }
  }
}
