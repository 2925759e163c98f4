package ebb.service.applications;

import ebb.api.InspectionView;
import ebb.api.InspectionView.PartView;
import ebb.api.InspectionView.SchemaAttributeView;
import ebb.api.InspectionView.TriedView;
import ebb.core.application.Capabilities;
import ebb.core.application.Inspection;
import ebb.core.application.Part;
import ebb.core.person.Attributes;
import ebb.service.web.Problems;
import ebb.store.Database;
import ebb.store.people.OwnAttributes;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** What a look at an application found, as it is shown: with a suggestion of how to fill it. */
@Component
final class Inspections {
  private final Database database;
  private final OwnAttributes attributes;

  Inspections(Database database, OwnAttributes attributes) {
    this.database = database;
    this.attributes = attributes;
  }

  InspectionView view(Inspection inspection) {
    var can = inspection.capabilities();
    return new InspectionView(
        inspection.tried().stream()
            .map(one -> new TriedView(one.what(), Problems.view(one.problem()), one.without()))
            .toList(),
        Arrays.stream(Part.values())
            .map(part -> new PartView(part.word(), can.has(part), part.without()))
            .toList(),
        schema(can),
        inspection.ahead() == null ? null : inspection.ahead().toSeconds(),
        can.page(),
        can.settles().toSeconds());
  }

  private List<SchemaAttributeView> schema(Capabilities can) {
    var known = database.read(attributes::catalogue).names();
    return can.writable().stream()
        .sorted()
        .map(
            name ->
                new SchemaAttributeView(
                    name,
                    can.required().contains(name),
                    can.equalityOf(name).word(),
                    suggested(name, known)))
        .toList();
  }

  private static String suggested(String name, Set<String> known) {
    return switch (name) {
      case "userName" -> "login";
      case "name.formatted" -> "person." + Attributes.DISPLAY_NAME;
      // A reference is no text: the rule names it among its references.
      case Attributes.MANAGER -> Attributes.MANAGER;
      default -> known.contains(name) ? "person." + name : null;
    };
  }
}
