package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import java.util.List;

/** What keeps somebody from signing in with an entry. */
sealed interface Switch {
  /** The server itself locks it (pwdAccountLockedTime of the password policy). */
  String LOCKED = "pwdAccountLockedTime";

  /** Locked until it is unlocked again, not for a time only. */
  String FOR_GOOD = "000001010000Z";

  /** An attribute says it, and whoever lets people in looks at it. */
  record Flag(String attribute, String usable, String unusable) implements Switch {}

  record Lock() implements Switch {}

  /** It stands elsewhere. */
  record Place(DN suspended) implements Switch {}

  /** Nothing does. */
  record None() implements Switch {}

  default boolean isOff(Entry entry) throws LDAPException {
    return switch (this) {
      case Flag(var attribute, _, var unusable) ->
          unusable.equalsIgnoreCase(entry.getAttributeValue(attribute));
      case Lock() -> entry.hasAttribute(LOCKED);
      case Place(var suspended) -> entry.getParsedDN().isDescendantOf(suspended, false);
      case None() -> false;
    };
  }

  /** The attribute that says it. */
  default List<String> read() {
    return switch (this) {
      case Flag flag -> List.of(flag.attribute());
      case Lock() -> List.of(LOCKED);
      case Place _, None() -> List.of();
    };
  }

  /** What a new entry must say. */
  default void mark(Entry entry, boolean usable) {
    switch (this) {
      case Flag(var attribute, var yes, var no) -> entry.addAttribute(attribute, usable ? yes : no);
      case Lock() -> {
        if (!usable) {
          entry.addAttribute(LOCKED, FOR_GOOD);
        }
      }
      case Place _, None() -> {}
    }
  }

  /** What an entry that is there must say from now on. */
  default List<Modification> set(boolean usable) {
    return switch (this) {
      case Flag(var attribute, var yes, var no) ->
          List.of(new Modification(ModificationType.REPLACE, attribute, usable ? yes : no));
      case Lock() ->
          List.of(
              usable
                  ? new Modification(ModificationType.REPLACE, LOCKED)
                  : new Modification(ModificationType.REPLACE, LOCKED, FOR_GOOD));
      case Place _, None() -> List.of();
    };
  }
}
