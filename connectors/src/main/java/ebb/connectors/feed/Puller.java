package ebb.connectors.feed;

import ebb.core.feed.Undelivered;
import java.nio.file.Path;
import java.util.Optional;

/** Gets one delivery at a time. Changes nothing on the other side. */
public interface Puller {
  /**
   * Gets the next delivery.
   *
   * @param into an empty file of ours
   * @param mark of the last one; null if there was none
   * @return empty if nothing is new
   * @throws Undelivered if it cannot be got whole
   */
  Optional<Fetched> fetch(Path into, String mark) throws Undelivered;
}
