package ebb.service.push;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.imports.Mapping;
import ebb.core.person.Attribute;
import ebb.core.person.ByHand;
import ebb.core.person.Catalogue;
import ebb.core.rule.Expressions;
import ebb.store.push.Resource;
import java.time.Instant;
import java.util.List;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.Test;

/** What stands in the columns of a delivery of pushed people. */
public class PushedColumnsTest {
  private static final Instant NOW = Instant.parse("2026-11-27T10:00:00Z");
  private static final Catalogue OWN =
      Catalogue.with(
          List.of(
              new Attribute(
                  "lockerNumber",
                  Attribute.Type.NUMBER,
                  false,
                  null,
                  true,
                  ByHand.ALLOWED,
                  List.of(),
                  true)));

  @Test
  public void eachAttributeIsReadFromWhereScimHasIt() throws Exception {
    var body =
        body(
            """
            {"name": {"givenName": "Ida", "familyName": "Holm"}, "title": "Mate", "externalId": "7",
             "emails": [{"type": "work", "value": "w@x.example"}, {"type": "Home", "value": "h@x.example"}],
             "phoneNumbers": [{"type": "mobile", "value": "+47 900 00 000"}],
             "addresses": [{"type": "work", "locality": "Skerrow"}],
             "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User":
               {"department": "Deck", "manager": {"value": "id-of-9"}},
             "urn:ebb:scim:schemas:extension:person:1.0:User":
               {"startDate": "2026-01-05", "lockerNumber": 12}}
            """);
    var row = row(OWN, resource(false), body);

    assertThat(row)
        .containsEntry("key", "7")
        .containsEntry("formerKey", "3")
        .containsEntry("gone", "")
        .containsEntry("name.givenName", "Ida")
        .containsEntry("name.familyName", "Holm")
        .containsEntry("title", "Mate")
        .containsEntry("externalId", "7")
        .containsEntry("emails.home", "h@x.example")
        .containsEntry("emails.work", "w@x.example")
        .containsEntry("phoneNumbers.mobile", "+47 900 00 000")
        .containsEntry("addresses.work.locality", "Skerrow")
        .containsEntry("department", "Deck")
        .containsEntry("manager", "key of id-of-9")
        .containsEntry("startDate", "2026-01-05")
        .containsEntry("lockerNumber", "12")
        .containsEntry("displayName", "")
        .containsEntry("version", "4");
  }

  @Test
  public void whoIsDeletedOrNotActiveHasGoneUnlessTheirLastDayIsSaid() throws Exception {
    assertThat(row(OWN, resource(true), body("{}"))).containsEntry("gone", "yes");
    assertThat(row(OWN, resource(false), body("{\"active\": false}"))).containsEntry("gone", "yes");
    assertThat(row(OWN, resource(false), body("{\"active\": true}"))).containsEntry("gone", "");
    var dated =
        body(
            """
            {"active": false,
             "urn:ebb:scim:schemas:extension:person:1.0:User": {"endDate": "2027-01-31"}}
            """);
    assertThat(row(OWN, resource(false), dated))
        .containsEntry("gone", "")
        .containsEntry("endDate", "2027-01-31");
  }

  @Test
  public void whatSomebodySaidOfAColumnStaysAndNewAttributesFindTheirs() {
    var first = PushedColumns.mapping(null, Catalogue.STANDARD);
    assertThat(first.problems(Catalogue.STANDARD, new Expressions())).isEmpty();
    assertThat(first.fit(PushedColumns.headings(first))).isEqualTo(Mapping.Fit.WHOLE);
    assertThat(PushedColumns.mapping(first, Catalogue.STANDARD)).isEqualTo(first);

    var columns = new TreeMap<>(first.columns());
    columns.remove("location");
    columns.put("addresses.work.locality", "location");
    var ignored = new TreeSet<>(first.ignored());
    ignored.remove("addresses.work.locality");
    ignored.add("location");
    var edited = new Mapping("key", columns, ignored, null, null, null);
    var next = PushedColumns.mapping(edited, OWN);

    assertThat(next.columns())
        .containsEntry("addresses.work.locality", "location")
        .containsEntry("lockerNumber", "lockerNumber")
        .doesNotContainKey("location");
    assertThat(next.problems(OWN, new Expressions())).isEmpty();
    assertThat(next.fit(PushedColumns.headings(next))).isEqualTo(Mapping.Fit.WHOLE);
  }

  private static TreeMap<String, String> row(Catalogue catalogue, Resource one, ObjectNode body) {
    var headings = PushedColumns.headings(PushedColumns.mapping(null, catalogue));
    var cells = PushedColumns.row(headings, one, body, "key of %s"::formatted);
    var row = new TreeMap<String, String>();
    for (int i = 0; i < headings.size(); i++) {
      row.put(headings.get(i), cells.get(i));
    }
    return row;
  }

  private static ObjectNode body(String json) throws Exception {
    return (ObjectNode) JsonUtils.getObjectReader().readTree(json);
  }

  private static Resource resource(boolean deleted) {
    return new Resource(
        "id", "hr", Resource.Kind.USER, "n", "7", "7", "3", "{}", deleted, NOW, NOW, 4, 9);
  }
}
