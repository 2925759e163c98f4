package ebb.store.journal;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.List;

/** Consecutive links of the chain. */
@Entity
@Table(name = "journal_block")
class BlockEntity {
  /** Of its first link. */
  @Id Long place;

  int entries;

  @Column(name = "last_entry")
  long lastEntry;

  long settled;

  String links;

  /** An entry and its seal, in hex. */
  record Link(long entry, String seal) {
    private static Link parsed(String line) {
      var blank = line.indexOf(' ');
      return new Link(Long.parseLong(line.substring(0, blank)), line.substring(blank + 1));
    }
  }

  List<Link> parsed() {
    return links.lines().map(Link::parsed).toList();
  }

  long lastPlace() {
    return place + entries - 1;
  }

  String lastSeal() {
    return links.substring(links.lastIndexOf(' ') + 1);
  }
}
