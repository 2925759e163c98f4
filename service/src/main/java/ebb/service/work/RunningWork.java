package ebb.service.work;

import java.util.Map;
import org.hibernate.StatelessSession;

/** A feature that works in the background. */
public interface RunningWork {
  /**
   * Work in progress, and work that is due now, by kind. Work that waits for a later time, or for
   * an operator, does not count.
   *
   * @return how much of each kind, as in "change sets"; kinds with nothing to do may be left out
   */
  Map<String, Long> running(StatelessSession session);
}
