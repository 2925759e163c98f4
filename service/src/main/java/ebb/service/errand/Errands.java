package ebb.service.errand;

import ebb.api.ErrandView;
import ebb.core.operator.Caller;
import java.util.List;
import org.hibernate.StatelessSession;

/** A part of the service in which something may need an operator. */
public interface Errands {
  /** No part fills the list alone. */
  int MOST = 20;

  int STOPPED = 1;
  int WAITING = 2;
  int RUNNING = 3;

  /** The most urgent first, at most {@link #MOST}; only what the operator may see. */
  List<ErrandView> of(StatelessSession session, Caller caller);
}
