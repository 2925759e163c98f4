package ebb.connectors.dav;

import ebb.connectors.carry.Logins;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.io.OutputStream;
import java.net.URI;
import java.util.OptionalLong;

/**
 * Where each account has what it owns.
 *
 * @param setting that says so
 * @param address with {login} in the place of an owner's name; ends with a slash
 */
record Homes(Dav dav, String setting, String address, Logins logins) {
  Homes {
    address = address.endsWith("/") ? address : address + "/";
  }

  /** Ends with a slash. */
  String of(String accountId) throws Unreachable {
    return named(logins.of(accountId));
  }

  /**
   * @param login by which an owner is known there
   */
  String named(String login) {
    return address.replace(DavSettings.PLACE, DavPath.encoded(login));
  }

  /**
   * @param item the key of a resource
   * @return false if it is not there any more, or another by now
   */
  boolean open(String accountId, String item, OutputStream to) throws Unreachable {
    var key = ResourceKey.of(item);
    return dav.get(key.path().under(of(accountId), false), key.etag(), to).isPresent();
  }

  OptionalLong room(String accountId) throws Unreachable {
    return dav.room(URI.create(of(accountId)));
  }

  URI all() {
    return URI.create(address.substring(0, address.indexOf(DavSettings.PLACE)));
  }

  /**
   * Who never kept anything may have no home. Where nobody's is there the address is wrong, and
   * nothing must be taken for empty.
   */
  void require(String home) throws Unreachable {
    if (!isThere(URI.create(home)) && !isThere(all())) {
      throw new Unreachable(
          new Problem(
              setting + "-place-missing",
              "There is nothing at %s.".formatted(all()),
              "The %s of all accounts are said to be there.".formatted(setting),
              "Correct the setting %s.".formatted(setting),
              null),
          null);
    }
  }

  boolean isThere(URI at) throws Unreachable {
    return dav.find(at, 0, "resourcetype").isPresent();
  }
}
