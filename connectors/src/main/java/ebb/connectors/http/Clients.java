package ebb.connectors.http;

import java.security.GeneralSecurityException;
import org.apache.hc.client5.http.config.ConnectionConfig;
import org.apache.hc.client5.http.config.RequestConfig;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.client5.http.impl.classic.HttpClients;
import org.apache.hc.client5.http.impl.io.PoolingHttpClientConnectionManagerBuilder;
import org.apache.hc.client5.http.ssl.DefaultClientTlsStrategy;
import org.apache.hc.core5.util.Timeout;

/** Pooled clients that repeat nothing, follow nowhere and keep no cookies. */
public final class Clients {
  private static final Timeout CONNECT = Timeout.ofSeconds(3);

  /**
   * @throws IllegalArgumentException if a certificate or key cannot be used
   */
  public static CloseableHttpClient of(JsonHttp.Line line) {
    var patience = Timeout.of(line.patience());
    var pool =
        PoolingHttpClientConnectionManagerBuilder.create()
            .setMaxConnPerRoute(line.connections())
            .setMaxConnTotal(line.connections())
            .setDnsResolver(line.network().resolver())
            .setDefaultConnectionConfig(
                ConnectionConfig.custom()
                    .setConnectTimeout(CONNECT)
                    .setSocketTimeout(patience)
                    .build());
    if (!line.tls().equals(Tls.USUAL)) {
      try {
        pool.setTlsSocketStrategy(new DefaultClientTlsStrategy(line.tls().context()));
      } catch (GeneralSecurityException e) {
        throw new IllegalArgumentException(e.getMessage(), e);
      }
    }
    return HttpClients.custom()
        .setConnectionManager(pool.build())
        .setDefaultRequestConfig(RequestConfig.custom().setResponseTimeout(patience).build())
        .disableAutomaticRetries()
        .disableRedirectHandling()
        .disableCookieManagement()
        .build();
  }

  private Clients() {}
}
