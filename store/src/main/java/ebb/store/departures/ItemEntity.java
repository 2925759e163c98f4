package ebb.store.departures;

import ebb.core.application.Ownership.Item;
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

  static ItemEntity of(long departureAccount, Item item) {
    var row = new ItemEntity();
    row.id = new Key(departureAccount, item.id());
    row.kind = item.kind();
    row.name = item.name();
    row.bytes = item.bytes();
    row.sha256 = item.sha256();
    row.transferable = item.transferable();
    return row;
  }

  Item toItem() {
    return new Item(id.itemId(), kind, name, bytes, sha256, transferable);
  }
}
