package ebb.service.selection;

import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.AndFilter;
import com.unboundid.scim2.common.filters.ComparisonFilter;
import com.unboundid.scim2.common.filters.ComplexValueFilter;
import com.unboundid.scim2.common.filters.ContainsFilter;
import com.unboundid.scim2.common.filters.EndsWithFilter;
import com.unboundid.scim2.common.filters.EqualFilter;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.filters.FilterVisitor;
import com.unboundid.scim2.common.filters.GreaterThanFilter;
import com.unboundid.scim2.common.filters.GreaterThanOrEqualFilter;
import com.unboundid.scim2.common.filters.LessThanFilter;
import com.unboundid.scim2.common.filters.LessThanOrEqualFilter;
import com.unboundid.scim2.common.filters.NotEqualFilter;
import com.unboundid.scim2.common.filters.NotFilter;
import com.unboundid.scim2.common.filters.OrFilter;
import com.unboundid.scim2.common.filters.PresentFilter;
import com.unboundid.scim2.common.filters.StartsWithFilter;
import ebb.core.name.Folding;
import ebb.core.person.Attribute;
import ebb.core.person.Catalogue;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.store.people.PeopleFilter;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BinaryOperator;

/**
 * Filters over people. Beside what a person has, the stage can be asked for, as of a day.
 *
 * <p>Filters are written as RFC 7644, section 3.4.2.2 writes them.
 */
public final class Filters implements FilterVisitor<PeopleFilter, Void> {
  private static final String STAGE = "stage";

  private final LocalDate today;
  private final Catalogue catalogue;

  private Filters(LocalDate today, Catalogue catalogue) {
    this.today = today;
    this.catalogue = catalogue;
  }

  /**
   * @param text null for everyone
   * @throws Refusal if it cannot be understood, or names what cannot be searched
   */
  public static PeopleFilter parse(String text, LocalDate today, Catalogue catalogue) {
    if (text == null || text.isBlank()) {
      return PeopleFilter.EVERYONE;
    }
    try {
      return Filter.fromString(text).visit(new Filters(today, catalogue), null);
    } catch (BadRequestException e) {
      throw invalid("The filter cannot be understood: " + e.getMessage());
    } catch (ScimException e) {
      throw invalid(e.getMessage());
    }
  }

  @Override
  public PeopleFilter visit(EqualFilter filter, Void nothing) {
    if (filter.getAttributePath().toString().equalsIgnoreCase(STAGE)) {
      return stage(filter.getComparisonValue().asText());
    }
    return isFamilyName(filter)
        // Who has one name only has nothing after it.
        ? PeopleFilter.startsWith(attribute(filter), folded(filter) + "-")
            .or(PeopleFilter.compare(attribute(filter), "=", folded(filter)))
        : compared(filter, "=");
  }

  @Override
  public PeopleFilter visit(NotEqualFilter filter, Void nothing) {
    return compared(filter, "<>");
  }

  @Override
  public PeopleFilter visit(ContainsFilter filter, Void nothing) {
    return like(filter, "%", "%");
  }

  @Override
  public PeopleFilter visit(StartsWithFilter filter, Void nothing) {
    if (isFamilyName(filter)) {
      return PeopleFilter.startsWith(attribute(filter), folded(filter));
    }
    return path(filter).equalsIgnoreCase("userName")
        ? PeopleFilter.startsWith(
            attribute(filter), filter.getComparisonValue().asText().toLowerCase(Locale.ROOT))
        : like(filter, "", "%");
  }

  @Override
  public PeopleFilter visit(EndsWithFilter filter, Void nothing) {
    return like(filter, "%", "");
  }

  @Override
  public PeopleFilter visit(PresentFilter filter, Void nothing) {
    var attribute = filter.getAttributePath().toString();
    return own(attribute)
        .map(own -> PeopleFilter.presentOwn(own.name()))
        .orElseGet(() -> PeopleFilter.present(known(attribute)));
  }

  @Override
  public PeopleFilter visit(GreaterThanFilter filter, Void nothing) {
    return compared(filter, ">");
  }

  @Override
  public PeopleFilter visit(GreaterThanOrEqualFilter filter, Void nothing) {
    return compared(filter, ">=");
  }

  @Override
  public PeopleFilter visit(LessThanFilter filter, Void nothing) {
    return compared(filter, "<");
  }

  @Override
  public PeopleFilter visit(LessThanOrEqualFilter filter, Void nothing) {
    return compared(filter, "<=");
  }

  @Override
  public PeopleFilter visit(AndFilter filter, Void nothing) throws ScimException {
    return joined(filter.getCombinedFilters(), PeopleFilter::and);
  }

  @Override
  public PeopleFilter visit(OrFilter filter, Void nothing) throws ScimException {
    return joined(filter.getCombinedFilters(), PeopleFilter::or);
  }

  @Override
  public PeopleFilter visit(NotFilter filter, Void nothing) throws ScimException {
    return filter.getInvertedFilter().visit(this, nothing).not();
  }

  @Override
  public PeopleFilter visit(ComplexValueFilter filter, Void nothing) {
    throw invalid("Filters on one of several values cannot be searched.");
  }

  /** Where people stand on the organisation's day; leave is not told from presence here. */
  private PeopleFilter stage(String word) {
    var ended = PeopleFilter.compare("endDate", "<", today).or(PeopleFilter.unasserted());
    var notEnded =
        PeopleFilter.compare("endDate", ">=", today)
            .or(PeopleFilter.absent("endDate").and(PeopleFilter.unasserted().not()));
    var begun = PeopleFilter.compare("startDate", "<=", today).or(PeopleFilter.absent("startDate"));
    return switch (word) {
      case "expected" -> PeopleFilter.compare("startDate", ">", today).and(notEnded);
      case "present" -> begun.and(PeopleFilter.absent("endDate")).and(notEnded);
      case "leaving" -> PeopleFilter.compare("endDate", ">=", today).and(begun);
      case "departed" -> ended;
      default ->
          throw invalid(
              "%s is no stage; it is one of expected, present, leaving, departed.".formatted(word));
    };
  }

  private PeopleFilter joined(List<Filter> parts, BinaryOperator<PeopleFilter> join)
      throws ScimException {
    var all = parts.getFirst().visit(this, null);
    for (var part : parts.subList(1, parts.size())) {
      all = join.apply(all, part.visit(this, null));
    }
    return all;
  }

  private PeopleFilter compared(ComparisonFilter filter, String operator) {
    return own(path(filter))
        .map(
            own ->
                PeopleFilter.compareOwn(own.name(), operator, filter.getComparisonValue().asText()))
        .orElseGet(() -> PeopleFilter.compare(attribute(filter), operator, value(filter)));
  }

  /** An own attribute of that name that can be searched; letter case makes no odds. */
  private Optional<Attribute> own(String name) {
    return catalogue.all().stream()
        .filter(attribute -> attribute.own() && attribute.searchable())
        .filter(attribute -> attribute.name().equalsIgnoreCase(name))
        .findFirst();
  }

  private static String path(ComparisonFilter filter) {
    return filter.getAttributePath().toString();
  }

  private PeopleFilter like(ComparisonFilter filter, String before, String after) {
    var text =
        isFamilyName(filter)
            ? folded(filter)
            : filter
                .getComparisonValue()
                .asText()
                .replace("\\", "\\\\")
                .replace("%", "\\%")
                .replace("_", "\\_");
    return own(path(filter))
        .map(own -> PeopleFilter.compareOwn(own.name(), "like", before + text + after))
        .orElseGet(() -> PeopleFilter.compare(attribute(filter), "ilike", before + text + after));
  }

  private static boolean isFamilyName(ComparisonFilter filter) {
    return path(filter).equalsIgnoreCase("name.familyName");
  }

  private static String folded(ComparisonFilter filter) {
    return Folding.toAscii(filter.getComparisonValue().asText());
  }

  private static Object value(ComparisonFilter filter) {
    var text = filter.getComparisonValue().asText();
    return switch (attribute(filter).toLowerCase(Locale.ROOT)) {
      case "startdate", "enddate" -> date(text);
      case "id", "manager" -> number(text);
      default -> text;
    };
  }

  private static LocalDate date(String text) {
    try {
      return LocalDate.parse(text);
    } catch (DateTimeParseException _) {
      throw invalid("%s is no date; dates are written 2026-03-31.".formatted(text));
    }
  }

  private static Long number(String text) {
    if (!text.matches("\\d{1,18}")) {
      throw invalid(text + " is no number of a person.");
    }
    return Long.valueOf(text);
  }

  private static String attribute(ComparisonFilter filter) {
    return known(filter.getAttributePath().toString());
  }

  private static String known(String attribute) {
    if (!PeopleFilter.knows(attribute)) {
      throw invalid("%s cannot be searched.".formatted(attribute));
    }
    return attribute;
  }

  private static Refusal invalid(String what) {
    return Refusal.invalid(
        new Problem(
            "filter-invalid",
            what,
            "Filters are written as in RFC 7644: department eq \"Deck\" and endDate pr.",
            "Use displayName, name.familyName, userName, department, userType, employeeNumber,"
                + " manager, startDate, endDate, stage, id or an own attribute that is searchable.",
            Where.field("filter")));
  }
}
