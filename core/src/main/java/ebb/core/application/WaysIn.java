package ebb.core.application;

import java.util.List;

/** Asks an application which ways in to an account are open, beside signing in, and shuts them. */
public interface WaysIn {
  /**
   * @param kind in the application's words: token, device password, forwarding rule …
   * @param what in words, for a person to recognise: "phone of Ada, since May"
   */
  record Way(String id, String kind, String what) {}

  /** Those that are open, whether or not the account is suspended; at most a few hundred. */
  List<Way> open(String accountId) throws Unreachable;

  /** Called twice, the second finds it shut. */
  void shut(String accountId, String way) throws Unreachable;
}
