package ebb.connectors.http;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.Arrays;
import org.apache.hc.client5.http.DnsResolver;
import org.apache.hc.client5.http.SystemDefaultDnsResolver;

/**
 * Where an application may stand. It is looked at each time a connection is made: a name that led
 * outside yesterday may lead inside today.
 */
public enum Network {
  /** Anywhere but in the organisation's own network. */
  PUBLIC,
  /** Anywhere, the own network too. */
  INTERNAL;

  /** A name that leads where this application must not stand. */
  static final class NotAllowed extends UnknownHostException {
    NotAllowed(String host, InetAddress address) {
      super(
          "%s is %s, an address within the own network".formatted(host, address.getHostAddress()));
    }
  }

  DnsResolver resolver() {
    return new DnsResolver() {
      @Override
      public InetAddress[] resolve(String host) throws UnknownHostException {
        var addresses = SystemDefaultDnsResolver.INSTANCE.resolve(host);
        for (var address : addresses) {
          check(host, address);
        }
        return addresses;
      }

      @Override
      public String resolveCanonicalHostname(String host) throws UnknownHostException {
        return SystemDefaultDnsResolver.INSTANCE.resolveCanonicalHostname(host);
      }
    };
  }

  /**
   * @throws UnknownHostException if the name leads where this application must not stand
   */
  public void check(String host, InetAddress address) throws UnknownHostException {
    if (!allows(address)) {
      throw new NotAllowed(host, address);
    }
  }

  /** Link-local addresses, where machines are told their own secrets, are allowed nowhere. */
  public boolean allows(InetAddress address) {
    if (address.isLinkLocalAddress() || address.isMulticastAddress()) {
      return false;
    }
    return this == INTERNAL
        || !(address.isLoopbackAddress()
            || address.isAnyLocalAddress()
            || address.isSiteLocalAddress()
            || isUniqueLocal(address)
            || isShared(address));
  }

  /** RFC 4193. */
  private static boolean isUniqueLocal(InetAddress address) {
    var bytes = address.getAddress();
    return bytes.length == 16 && (bytes[0] & 0xfe) == 0xfc;
  }

  /** RFC 6598, and "this network" of RFC 1122. */
  private static boolean isShared(InetAddress address) {
    var bytes = address.getAddress();
    return bytes.length == 4
        && (bytes[0] == 0 || ((bytes[0] & 0xff) == 100 && (bytes[1] & 0xc0) == 64));
  }

  public static boolean isWord(String word) {
    return Arrays.stream(values()).anyMatch(one -> one.name().equalsIgnoreCase(word));
  }
}
