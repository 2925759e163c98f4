package ebb.store.departures;

import ebb.core.application.Ownership.Item;
import ebb.core.handover.Piece;
import ebb.core.handover.Piece.State;
import ebb.core.problem.Problem;
import ebb.store.Json;
import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "handover_item")
class ItemEntity {
  @Embeddable
  record Key(
      @Column(name = "departure_account_id") long departureAccountId,
      @Column(name = "item_id") String itemId) {}

  @EmbeddedId Key id;
  String kind;
  String name;
  long bytes;
  String sha256;
  boolean transferable;
  String state;
  String there;
  String place;
  String recipient;
  String problem;

  @Column(name = "left_out")
  String leftOut;

  @Column(name = "seen_attempt")
  int seenAttempt;

  static ItemEntity of(long departureAccount, Item item, int attempt) {
    var row = new ItemEntity();
    row.id = new Key(departureAccount, item.id());
    row.state = State.OWNED.name();
    return row.seenAgain(item, attempt);
  }

  /** As it is now, unless it is decided about; what failed is tried again with another attempt. */
  ItemEntity seenAgain(Item item, int attempt) {
    var isDecided =
        switch (State.valueOf(state)) {
          case ARRIVED, LEFT_OUT -> true;
          case FAILED -> attempt <= seenAttempt;
          case OWNED, GONE -> false;
        };
    seenAttempt = attempt;
    if (!isDecided) {
      kind = item.kind();
      name = item.name();
      bytes = item.bytes();
      sha256 = item.sha256();
      transferable = item.transferable();
      state = State.OWNED.name();
      problem = null;
    }
    return this;
  }

  Item toItem() {
    return new Item(id.itemId(), kind, name, bytes, sha256, transferable);
  }

  Piece toPiece() {
    return new Piece(
        toItem(),
        State.valueOf(state),
        recipient,
        place,
        Json.read(problem, Problem.class),
        leftOut);
  }
}
