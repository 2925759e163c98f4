package ebb.service.push;

import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Where senders reach the interface: by the service's public address. What a request says of its
 * host is whatever its sender, or a proxy, wrote there.
 */
@Component
final class ScimAddress {
  private final String address;

  ScimAddress(@Value("${ebb.public-address}") String publicAddress) {
    this.address = publicAddress.replaceAll("/+$", "") + PushController.PATH;
  }

  /** Without a slash at its end. */
  @Override
  public String toString() {
    return address;
  }
}
