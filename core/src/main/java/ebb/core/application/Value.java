package ebb.core.application;

import ebb.core.person.PersonId;
import java.util.List;

/**
 * What an attribute of an account should hold: texts, or the account of a person in the same
 * application, which is resolved when the change is carried out.
 *
 * @param texts empty means the attribute should hold nothing; always empty for a reference
 * @param accountOf null unless this is a reference
 */
public record Value(List<String> texts, PersonId accountOf) {
  public static final Value NOTHING = new Value(List.of(), null);

  public Value {
    texts = List.copyOf(texts);
  }

  public static Value of(String... texts) {
    return new Value(List.of(texts), null);
  }

  public static Value of(List<String> texts) {
    return new Value(texts, null);
  }

  public static Value accountOf(PersonId person) {
    return new Value(List.of(), person);
  }

  public boolean isReference() {
    return accountOf != null;
  }

  public boolean isNothing() {
    return texts.isEmpty() && accountOf == null;
  }

  @Override
  public String toString() {
    return isReference() ? "account of person " + accountOf : String.join(", ", texts);
  }
}
