package ebb.service.push;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.EqualFilter;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.utils.FilterEvaluator;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.store.push.Resource;
import ebb.store.push.Resources;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Finds what was pushed (RFC 7644, section 3.4.2). By name and by externalId it is found at once;
 * any other filter looks at one after the other.
 */
@Component
final class Search {
  static final int MOST = 200;

  private final Resources resources;
  private final Shown shown;

  Search(Resources resources, Shown shown) {
    this.resources = resources;
    this.shown = shown;
  }

  /**
   * What is asked for.
   *
   * @param filter null for all
   * @param startIndex from 1; less is taken for 1
   * @param count how many at most; null for as many as a page holds
   * @param projection what is shown of each
   */
  record Asked(String filter, Integer startIndex, Integer count, Projection projection) {
    int from() {
      return startIndex == null ? 1 : Math.max(1, startIndex);
    }

    int most() {
      return count == null ? MOST : Math.clamp(count, 0, MOST);
    }
  }

  /** A ListResponse. */
  ObjectNode find(
      StatelessSession session, Sender sender, Resource.Kind kind, Asked asked, String address) {
    var filter = filter(asked.filter());
    var page = new ArrayList<Resource>();
    long total;
    var only = filter.flatMap(one -> byName(session, sender.source(), kind, one));
    if (filter.isEmpty()) {
      total = resources.count(session, sender.source(), kind);
      page.addAll(resources.page(session, sender.source(), kind, asked.from() - 1, asked.most()));
    } else if (only.isPresent()) {
      total = only.get().size();
      page.addAll(asked.from() == 1 && asked.most() > 0 ? only.get() : List.of());
    } else {
      total = scan(session, sender.source(), kind, filter.get(), asked, page);
    }
    return list(session, total, page, asked, address);
  }

  private long scan(
      StatelessSession session,
      String source,
      Resource.Kind kind,
      Filter filter,
      Asked asked,
      List<Resource> page) {
    var total = new long[1];
    resources.each(
        session,
        source,
        kind,
        resource -> {
          if (isMatch(filter, shown.of(session, resource, ""))) {
            total[0]++;
            if (total[0] >= asked.from() && page.size() < asked.most()) {
              page.add(resource);
            }
          }
        });
    return total[0];
  }

  private static boolean isMatch(Filter filter, JsonNode resource) {
    try {
      return FilterEvaluator.evaluate(filter, resource);
    } catch (ScimException e) {
      throw ScimErrors.refusal(e);
    }
  }

  /** Empty where the filter asks for something else. */
  private Optional<List<Resource>> byName(
      StatelessSession session, String source, Resource.Kind kind, Filter filter) {
    if (!(filter instanceof EqualFilter equal) || !equal.getComparisonValue().isTextual()) {
      return Optional.empty();
    }
    var text = equal.getComparisonValue().asText();
    var name = kind == Resource.Kind.USER ? "username" : "displayname";
    var asked = equal.getAttributePath().toString().toLowerCase(Locale.ROOT);
    var found =
        asked.equals(name)
            ? resources.named(session, source, kind, text.toLowerCase(Locale.ROOT))
            : asked.equals("externalid")
                ? resources.external(session, source, kind, text)
                : asked.equals("id") ? resources.get(session, source, kind, text) : null;
    return Optional.ofNullable(found).map(one -> one.stream().toList());
  }

  private static Optional<Filter> filter(String text) {
    return text == null ? Optional.empty() : Optional.of(PushedFilter.parse(text));
  }

  private ObjectNode list(
      StatelessSession session, long total, List<Resource> page, Asked asked, String address) {
    var out = JsonUtils.getJsonNodeFactory().objectNode();
    out.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:ListResponse");
    out.put("totalResults", total);
    out.put("startIndex", asked.from());
    out.put("itemsPerPage", page.size());
    var list = out.putArray("Resources");
    page.forEach(resource -> list.add(asked.projection().of(shown.of(session, resource, address))));
    return out;
  }
}
