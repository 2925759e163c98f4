package ebb.connectors.dav;

import java.util.Set;

/** What an application's settings are called that concern files on a WebDAV server. */
public final class DavSettings {
  /** Where the files of an account are, with {login} in the place of its owner's name there. */
  public static final String FILES = "files";

  /** Who may read and write the files of all. */
  public static final String USER = "filesUser";

  /** The attribute of accounts that stands for {login}; the login, unless set. */
  public static final String LOGIN = "filesLogin";

  /** The password of who may. */
  public static final String SECRET = "files";

  /** What stands for the name of an owner. */
  public static final String PLACE = "{login}";

  public static final Set<String> ALL = Set.of(FILES, USER, LOGIN);

  private DavSettings() {}
}
