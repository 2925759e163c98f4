package ebb.service.push;

import com.fasterxml.jackson.databind.node.ValueNode;
import com.unboundid.scim2.common.Path;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.AndFilter;
import com.unboundid.scim2.common.filters.ComparisonFilter;
import com.unboundid.scim2.common.filters.ComplexValueFilter;
import com.unboundid.scim2.common.filters.ContainsFilter;
import com.unboundid.scim2.common.filters.EndsWithFilter;
import com.unboundid.scim2.common.filters.EqualFilter;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.filters.GreaterThanFilter;
import com.unboundid.scim2.common.filters.GreaterThanOrEqualFilter;
import com.unboundid.scim2.common.filters.LessThanFilter;
import com.unboundid.scim2.common.filters.LessThanOrEqualFilter;
import com.unboundid.scim2.common.filters.NotEqualFilter;
import com.unboundid.scim2.common.filters.NotFilter;
import com.unboundid.scim2.common.filters.OrFilter;
import com.unboundid.scim2.common.filters.PresentFilter;
import com.unboundid.scim2.common.filters.StartsWithFilter;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.BiFunction;

/**
 * Filters as senders write them (RFC 7644, section 3.4.2.2), in the one form in which they are
 * looked up: core attributes without their URN, and of values that are several the value itself.
 */
final class PushedFilter {
  /** What has "value" where no sub-attribute is named (RFC 7643, section 2.4). */
  private static final Set<String> OF_SEVERAL =
      Set.of(
          "emails",
          "phonenumbers",
          "ims",
          "photos",
          "groups",
          "entitlements",
          "roles",
          "x509certificates",
          "members");

  private static final Set<String> CORE =
      Set.of(PushSchemas.USER.toLowerCase(Locale.ROOT), PushSchemas.GROUP.toLowerCase(Locale.ROOT));

  private PushedFilter() {}

  /**
   * @throws ebb.core.problem.Refusal if it cannot be understood to its end
   */
  static Filter parse(String text) {
    try {
      if (text.isBlank()) {
        throw BadRequestException.invalidFilter("It is empty.");
      }
      if (isLeftOpen(text)) {
        throw BadRequestException.invalidFilter("A bracket is opened and never closed: " + text);
      }
      return plain(Filter.fromString(text));
    } catch (ScimException e) {
      throw ScimErrors.refusal(e);
    }
  }

  /** The library closes what the sender left open, and would find what nobody asked for. */
  static boolean isLeftOpen(String text) {
    int open = 0;
    boolean isQuoted = false;
    for (int i = 0; i < text.length(); i++) {
      char one = text.charAt(i);
      if (isQuoted && one == '\\') {
        i++;
      } else if (one == '"') {
        isQuoted = !isQuoted;
      } else if (!isQuoted) {
        open += one == '[' ? 1 : one == ']' ? -1 : 0;
      }
    }
    return open > 0;
  }

  private static Path plain(Path path) {
    var urn = path.getSchemaUrn();
    if (urn == null || !CORE.contains(urn.toLowerCase(Locale.ROOT))) {
      return path;
    }
    var plain = Path.root();
    for (var element : path) {
      plain = plain.attribute(element.getAttribute(), element.getValueFilter());
    }
    return plain;
  }

  private static Path compared(Path path) {
    var plain = plain(path);
    var isWhole =
        plain.size() == 1
            && plain.getSchemaUrn() == null
            && plain.getElement(0).getValueFilter() == null
            && OF_SEVERAL.contains(plain.getElement(0).getAttribute().toLowerCase(Locale.ROOT));
    return isWhole ? plain.attribute("value") : plain;
  }

  private static Filter plain(Filter filter) {
    return switch (filter) {
      case EqualFilter one -> compared(one, Filter::eq);
      case NotEqualFilter one -> compared(one, Filter::ne);
      case ContainsFilter one -> compared(one, Filter::co);
      case StartsWithFilter one -> compared(one, Filter::sw);
      case EndsWithFilter one -> compared(one, Filter::ew);
      case GreaterThanFilter one -> compared(one, Filter::gt);
      case GreaterThanOrEqualFilter one -> compared(one, Filter::ge);
      case LessThanFilter one -> compared(one, Filter::lt);
      case LessThanOrEqualFilter one -> compared(one, Filter::le);
      case PresentFilter one -> Filter.pr(plain(one.getAttributePath()));
      case AndFilter all -> Filter.and(plain(all.getCombinedFilters()));
      case OrFilter any -> Filter.or(plain(any.getCombinedFilters()));
      case NotFilter not -> Filter.not(plain(not.getInvertedFilter()));
      case ComplexValueFilter one ->
          Filter.complex(plain(one.getAttributePath()), one.getValueFilter());
      default -> throw new IllegalStateException("No such filter: " + filter.getFilterType());
    };
  }

  private static List<Filter> plain(List<Filter> filters) {
    return filters.stream().map(PushedFilter::plain).toList();
  }

  private static Filter compared(
      ComparisonFilter filter, BiFunction<Path, ValueNode, Filter> comparison) {
    return comparison.apply(compared(filter.getAttributePath()), filter.getComparisonValue());
  }
}
