package ebb.connectors.dav;

import java.util.Set;

/** What an application's settings are called that concern files and calendars beside it. */
public final class DavSettings {
  /**
   * Where the files of an account are, with {login} in the place of its owner's name there; also
   * the name of the password.
   */
  public static final String FILES = "files";

  /** Who may read and write the files of all. */
  public static final String USER = "filesUser";

  /** The attribute of accounts that stands for {login}; the login, unless set. */
  public static final String LOGIN = "filesLogin";

  /**
   * Days after which a file that nobody changed is a kind of its own, past-files; never, unless
   * set.
   */
  public static final String PAST_AFTER = "filesPastAfter";

  /** Where the calendars of an account are, as with files. */
  public static final String CALENDARS = "calendars";

  public static final String CALENDARS_USER = "calendarsUser";
  public static final String CALENDARS_LOGIN = "calendarsLogin";

  /** The attribute of accounts by which their owners are invited. */
  public static final String CALENDARS_ADDRESS = "calendarsAddress";

  public static final String USUAL_ADDRESS = "emails.work";

  /** Whether attendees are told that somebody else calls a meeting now; no, unless set. */
  public static final String CALENDARS_TELL = "calendarsTell";

  public static final String YES = "yes";
  public static final String NO = "no";

  /** Who keeps what is past, by their name there; the recipient, unless set. */
  public static final String CALENDARS_PAST = "calendarsPast";

  /** What stands for the name of an owner. */
  public static final String PLACE = "{login}";

  public static final Set<String> ALL =
      Set.of(
          FILES,
          USER,
          LOGIN,
          PAST_AFTER,
          CALENDARS,
          CALENDARS_USER,
          CALENDARS_LOGIN,
          CALENDARS_ADDRESS,
          CALENDARS_TELL,
          CALENDARS_PAST);

  private DavSettings() {}
}
