package ebb.service.notices;

import ebb.core.notice.Ask;
import ebb.core.notice.Notice;
import ebb.store.people.StoredPerson;
import java.time.Duration;
import java.util.Map;
import java.util.Set;
import org.springframework.http.HttpStatus;

/** What notices of a kind ask for: the letter, the page its link opens, and what an answer does. */
public interface Asking {
  Set<Notice.Kind> kinds();

  /**
   * @param link works once
   */
  String letter(Notice notice, StoredPerson person, String link);

  /** For how long its link works: a person who starts on Monday may read it on Sunday. */
  default Duration openFor() {
    return Duration.ofDays(7);
  }

  /** The page of an ask that is open. */
  Page show(Ask ask, StoredPerson person);

  /**
   * Takes an answer.
   *
   * @param answers by the names of the fields of the page
   */
  Page answer(Ask ask, StoredPerson person, Map<String, String> answers);

  /**
   * @param content HTML, in which all that is not our own was escaped
   */
  record Page(HttpStatus status, String title, String content) {
    public static Page ok(String title, String content) {
      return new Page(HttpStatus.OK, title, content);
    }
  }

  /** Of a link that was used, or whose time has run out. */
  Page OVER =
      new Page(
          HttpStatus.GONE,
          "This link is over",
          "<p>It was used already, or its time has run out.</p>"
              + "<p>Ask your administrator for a new one.</p>");
}
