package ebb.store.people;

import ebb.core.name.Folding;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.core.person.PersonId;

/** Between persons and their rows. */
final class PersonMapper {
  static StoredPerson person(PersonEntity row) {
    return new StoredPerson(
        new Person(new PersonId(row.id), ValueReader.held(row.attributes)),
        row.displayName,
        row.login,
        row.version);
  }

  /** Fills all columns that follow from the person. */
  static void fill(PersonEntity row, Person person, String attributes) {
    row.id = person.id().value();
    row.displayName = person.displayName();
    row.sortName = sortName(person);
    row.callName = callName(person);
    row.department = person.get(Attributes.DEPARTMENT).orElse(null);
    row.userType = person.get(Attributes.USER_TYPE).orElse(null);
    row.employeeNumber = person.get(Attributes.EMPLOYEE_NUMBER).orElse(null);
    row.managerId = person.manager().map(PersonId::value).orElse(null);
    row.startDate = person.date(Attributes.START_DATE).orElse(null);
    row.endDate = person.date(Attributes.END_DATE).orElse(null);
    row.attributes = attributes;
  }

  /** Family name first, folded: what lists are ordered by and searches begin with. */
  static String sortName(Person person) {
    var name =
        person.get(Attributes.FAMILY_NAME).orElse("")
            + " "
            + person.get(Attributes.GIVEN_NAME).orElse("");
    return Folding.toAscii(name.strip());
  }

  /** Given name first, folded: how people are called, and searched for. */
  private static String callName(Person person) {
    return Folding.toAscii(
        (person.get(Attributes.GIVEN_NAME).orElse("")
                + " "
                + person.get(Attributes.FAMILY_NAME).orElse(""))
            .strip());
  }

  static Assertions assertions(AssertionEntity row) {
    return new Assertions(
        new PersonId(row.personId), row.source, ValueReader.asserted(row.asserted));
  }

  private PersonMapper() {}
}
