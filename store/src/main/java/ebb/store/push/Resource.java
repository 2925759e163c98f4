package ebb.store.push;

import java.time.Instant;

/**
 * A SCIM resource as its sender last said it (RFC 7643, section 3).
 *
 * @param uniqueName folded; what no other of its kind may have
 * @param externalId the sender's own identifier; null if it gave none
 * @param key under which the source knows the person; of a group, what applications call it
 * @param formerKey the key before it was changed; null if it never was
 * @param body its JSON without id, meta and members; empty once it is deleted
 * @param version grows with every write; 0 for one that is new
 * @param number beyond its feed's mark while it waits for a delivery
 */
public record Resource(
    String id,
    String source,
    Kind kind,
    String uniqueName,
    String externalId,
    String key,
    String formerKey,
    String body,
    boolean deleted,
    Instant createdAt,
    Instant editedAt,
    long version,
    long number) {
  public enum Kind {
    USER,
    GROUP
  }

  /** The same with nothing of it kept but its keys. */
  public Resource gone(Instant at) {
    return new Resource(
        id, source, kind, null, null, key, formerKey, "{}", true, createdAt, at, version, number);
  }
}
