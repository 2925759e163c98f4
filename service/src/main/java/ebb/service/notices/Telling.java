package ebb.service.notices;

import ebb.core.notice.Notice;
import ebb.store.people.StoredPerson;
import java.util.Set;
import org.hibernate.StatelessSession;

/** Letters that tell somebody something and ask nothing. */
public interface Telling {
  Set<Notice.Kind> kinds();

  /** The letter, made when it is sent. */
  String letter(StatelessSession session, Notice notice, StoredPerson person);
}
