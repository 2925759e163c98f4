package ebb.connectors.ldap;

import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.FailoverServerSet;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPConnectionOptions;
import com.unboundid.ldap.sdk.LDAPConnectionPool;
import com.unboundid.ldap.sdk.LDAPConnectionPoolHealthCheck;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.LDAPResult;
import com.unboundid.ldap.sdk.NameResolver;
import com.unboundid.ldap.sdk.PostConnectProcessor;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResult;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.ServerSet;
import com.unboundid.ldap.sdk.SimpleBindRequest;
import com.unboundid.ldap.sdk.SingleServerSet;
import com.unboundid.ldap.sdk.StartTLSPostConnectProcessor;
import com.unboundid.ldap.sdk.controls.SimplePagedResultsControl;
import com.unboundid.util.ssl.SSLSocketVerifier;
import ebb.connectors.http.Network;
import ebb.connectors.http.Tls;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.security.GeneralSecurityException;
import java.security.cert.X509Certificate;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLSocket;
import org.apache.hc.client5.http.ssl.DefaultHostnameVerifier;

/** The line to the servers of one directory: connections, searches, writes. */
final class Directory implements AutoCloseable {
  static final int PAGE = 1_000;

  private static final int CONNECT_MILLIS = 3_000;

  /** Servers and what stands before them end connections that are old. */
  private static final long CONNECTION_MILLIS = 300_000;

  /** No server ends connections that rested for less. */
  private static final long REST_MILLIS = 1_000;

  private final LdapSettings settings;
  private final LdapOutcomes outcomes;
  private final LDAPConnectionPool pool;
  private volatile LdapFeatures features;

  /**
   * @param connections at most as many at once
   */
  Directory(
      LdapSettings settings, Secret password, Tls tls, int connections, LdapOutcomes outcomes) {
    this.settings = settings;
    this.outcomes = outcomes;
    try {
      var security = settings.security();
      var context = security == LdapSettings.Security.NONE ? null : tls.context();
      // No connection at the start: a directory that is down must not stop Ebb from starting.
      pool =
          new LDAPConnectionPool(
              servers(context),
              new SimpleBindRequest(settings.bindDn(), password.reveal()),
              0,
              connections,
              security == LdapSettings.Security.STARTTLS ? startTls(context) : null);
    } catch (LDAPException e) {
      throw new IllegalStateException("A pool of no connections cannot fail to open", e);
    } catch (GeneralSecurityException e) {
      throw new IllegalArgumentException("The certificates cannot be read: " + e.getMessage(), e);
    }
    // Sending again what may have been done is for the queue to decide.
    pool.setRetryFailedOperationsDueToInvalidConnections(false);
    pool.setMaxConnectionAgeMillis(CONNECTION_MILLIS);
    pool.setHealthCheck(new AfterRest());
  }

  /**
   * Of what is written on a connection that was ended meanwhile nobody would know whether it was
   * done: one that rested is asked first, and another taken if it does not answer.
   */
  private static final class AfterRest extends LDAPConnectionPoolHealthCheck {
    @Override
    public void ensureConnectionValidForCheckout(LDAPConnection connection) throws LDAPException {
      var rested = System.currentTimeMillis() - connection.getLastCommunicationTime();
      if (rested > REST_MILLIS) {
        connection.getEntry("", SearchRequest.NO_ATTRIBUTES);
      }
    }
  }

  private static PostConnectProcessor startTls(SSLContext context) {
    return new StartTLSPostConnectProcessor(context);
  }

  private ServerSet servers(SSLContext context) {
    var options = new LDAPConnectionOptions();
    options.setConnectTimeoutMillis(CONNECT_MILLIS);
    options.setResponseTimeoutMillis(settings.patience().toMillis());
    options.setUseSynchronousMode(true);
    options.setNameResolver(new Within(settings.network()));
    options.setSSLSocketVerifier(new OfTheirName());
    var factory =
        settings.security() == LdapSettings.Security.LDAPS ? context.getSocketFactory() : null;
    var all =
        settings.servers().stream()
            .map(server -> new SingleServerSet(server.host(), server.port(), factory, options))
            .toArray(ServerSet[]::new);
    return all.length == 1 ? all[0] : new FailoverServerSet(all);
  }

  /**
   * The certificate is of the host that was called (RFC 6125). The library's own look lets this
   * machine's address pass with any.
   */
  private static final class OfTheirName extends SSLSocketVerifier {
    private final DefaultHostnameVerifier names = new DefaultHostnameVerifier();

    @Override
    public void verifySSLSocket(String host, int port, SSLSocket socket) throws LDAPException {
      try {
        var shown = socket.getSession().getPeerCertificates()[0];
        names.verify(host, (X509Certificate) shown);
      } catch (SSLException e) {
        throw new LDAPException(ResultCode.CONNECT_ERROR, e.getMessage(), e);
      }
    }
  }

  /** Names lead only where this application may stand. */
  private static final class Within extends NameResolver {
    private final Network network;

    Within(Network network) {
      this.network = network;
    }

    @Override
    public InetAddress getByName(String host) throws UnknownHostException {
      return getAllByName(host)[0];
    }

    @Override
    public InetAddress[] getAllByName(String host) throws UnknownHostException {
      var addresses = InetAddress.getAllByName(host);
      for (var address : addresses) {
        network.check(host, address);
      }
      return addresses;
    }

    @Override
    public void toString(StringBuilder to) {
      to.append("within ").append(network);
    }
  }

  LdapSettings settings() {
    return settings;
  }

  /** As they were when last looked at. */
  LdapFeatures features() throws Unreachable {
    return features == null ? look() : features;
  }

  /** Looks anew. */
  LdapFeatures look() throws Unreachable {
    features = reading(LdapFeatures::of).orElseThrow();
    return features;
  }

  interface Reading<T> {
    T from(LDAPConnection connection) throws LDAPException, Unreachable;
  }

  /** Reads on one connection. A search on an absent entry finds nothing. */
  <T> Optional<T> reading(Reading<T> reading) throws Unreachable {
    try {
      return Optional.ofNullable(read(reading));
    } catch (LDAPException e) {
      if (e.getResultCode() == ResultCode.NO_SUCH_OBJECT) {
        return Optional.empty();
      }
      throw new Unreachable(outcomes.problem(e), e);
    }
  }

  /** A connection may have been ended while it was not used: asking again on a new one is safe. */
  private <T> T read(Reading<T> reading) throws LDAPException, Unreachable {
    try {
      return onOne(reading);
    } catch (LDAPException e) {
      if (!LdapOutcomes.isConnectionLost(e)) {
        throw e;
      }
      return onOne(reading);
    }
  }

  private <T> T onOne(Reading<T> reading) throws LDAPException, Unreachable {
    var connection = pool.getConnection();
    try {
      var result = reading.from(connection);
      pool.releaseConnection(connection);
      return result;
    } catch (LDAPException e) {
      pool.releaseConnectionAfterException(connection, e);
      throw e;
    } catch (Unreachable | RuntimeException e) {
      // Something is still to come on it.
      pool.releaseDefunctConnection(connection);
      throw e;
    }
  }

  List<SearchResultEntry> search(DN base, Filter filter, String... attributes) throws Unreachable {
    return reading(connection -> all(connection, base, filter, attributes)).orElse(List.of());
  }

  /** For what is read in the course of a write: what goes wrong is said of the write. */
  List<SearchResultEntry> searchForWrite(DN base, Filter filter, String... attributes)
      throws LDAPException {
    try {
      return read(connection -> all(connection, base, filter, attributes));
    } catch (Unreachable e) {
      throw new IllegalStateException("Nothing is read in between", e);
    }
  }

  private static List<SearchResultEntry> all(
      LDAPConnection connection, DN base, Filter filter, String... attributes)
      throws LDAPException {
    return connection
        .search(base.toString(), SearchScope.SUB, filter, attributes)
        .getSearchEntries();
  }

  Optional<SearchResultEntry> entry(String dn, String... attributes) throws Unreachable {
    return reading(connection -> connection.getEntry(dn, attributes));
  }

  /**
   * Reads page by page (RFC 2696), on one connection. An answer that breaks off is not begun anew:
   * what came was passed on already.
   */
  void pages(DN base, Filter filter, Consumer<SearchResultEntry> each, String... names)
      throws Unreachable {
    pages(base, filter, each, () -> {}, names);
  }

  /** What is done with a page, once all of it came. */
  interface PageEnd {
    void reached() throws Unreachable;
  }

  void pages(DN base, Filter filter, Consumer<SearchResultEntry> each, PageEnd end, String... names)
      throws Unreachable {
    var paging = new Paging(base, filter, each, end, names);
    try {
      try {
        onOne(paging);
      } catch (LDAPException e) {
        if (paging.begun || !LdapOutcomes.isConnectionLost(e)) {
          throw e;
        }
        onOne(paging);
      }
    } catch (LDAPException e) {
      throw new Unreachable(outcomes.problem(e), e);
    }
  }

  private static final class Paging implements Reading<Object> {
    private final DN base;
    private final Filter filter;
    private final Consumer<SearchResultEntry> each;
    private final PageEnd end;
    private final String[] names;
    private boolean begun;

    Paging(DN base, Filter filter, Consumer<SearchResultEntry> each, PageEnd end, String... names) {
      this.base = base;
      this.filter = filter;
      this.each = each;
      this.end = end;
      this.names = names;
    }

    /** The server makes the next page ready while something is done with the one before. */
    @Override
    public Object from(LDAPConnection connection) throws LDAPException, Unreachable {
      try (var ahead = Executors.newSingleThreadExecutor()) {
        var coming = ahead.submit(() -> connection.search(request(null)));
        while (coming != null) {
          var result = page(coming);
          begun = true;
          var response = SimplePagedResultsControl.get(result);
          coming =
              response == null || !response.moreResultsToReturn()
                  ? null
                  : ahead.submit(() -> connection.search(request(response.getCookie())));
          result.getSearchEntries().forEach(each);
          end.reached();
        }
      }
      return null;
    }

    private SearchRequest request(ASN1OctetString cookie) {
      var request = new SearchRequest(base.toString(), SearchScope.SUB, filter, names);
      request.addControl(new SimplePagedResultsControl(PAGE, cookie, true));
      return request;
    }

    private static SearchResult page(Future<SearchResult> coming) throws LDAPException {
      try {
        return coming.get();
      } catch (ExecutionException e) {
        throw e.getCause() instanceof LDAPException said
            ? said
            : new LDAPException(ResultCode.LOCAL_ERROR, e.getMessage(), e);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new LDAPException(ResultCode.USER_CANCELED, "Interrupted", e);
      }
    }
  }

  interface Writing {
    LDAPResult on(LDAPConnectionPool pool) throws LDAPException;
  }

  /**
   * Sends one write.
   *
   * @param note told only if somebody wants to know
   */
  LDAPResult write(Supplier<String> note, Writing writing) throws LDAPException {
    return LdapWire.noting(note, () -> writing.on(pool));
  }

  Problem problem(LDAPException e) {
    return outcomes.problem(e);
  }

  @Override
  public void close() {
    pool.close();
  }
}
