package ebb.connectors.mail;

import java.util.Set;

/** What an application's settings are called that concern mail. */
public final class MailSettings {
  /** Where mailboxes are: imap://host:port or imaps://host. */
  public static final String MAIL = "mail";

  /** Where automatic replies are set: sieve://host:port. */
  public static final String REPLIES = "replies";

  /** Who signs in for the owners of accounts. */
  public static final String USER = "mailUser";

  /** The attribute of accounts that is the name of their mailbox; the login, unless set. */
  public static final String LOGIN = "mailLogin";

  /** starttls, unless set, or none; without effect for imaps. */
  public static final String SECURITY = "mailSecurity";

  /** Whether mail is not copied, but can be read in the mailbox that stays; no, unless set. */
  public static final String SHARE = "mailShare";

  /** Days after which mail is a kind of its own, past-mail; never, unless set. */
  public static final String PAST_AFTER = "mailPastAfter";

  public static final String YES = "yes";
  public static final String NO = "no";

  /** The password of who signs in. */
  public static final String SECRET = "mail";

  public static final Set<String> ALL =
      Set.of(MAIL, REPLIES, USER, LOGIN, SECURITY, SHARE, PAST_AFTER);

  private MailSettings() {}
}
