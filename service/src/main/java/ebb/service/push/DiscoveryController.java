package ebb.service.push;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.ScimResource;
import com.unboundid.scim2.common.messages.ListResponse;
import com.unboundid.scim2.common.types.AuthenticationScheme;
import com.unboundid.scim2.common.types.BulkConfig;
import com.unboundid.scim2.common.types.ChangePasswordConfig;
import com.unboundid.scim2.common.types.ETagConfig;
import com.unboundid.scim2.common.types.FilterConfig;
import com.unboundid.scim2.common.types.Meta;
import com.unboundid.scim2.common.types.PatchConfig;
import com.unboundid.scim2.common.types.ResourceTypeResource;
import com.unboundid.scim2.common.types.ResourceTypeResource.SchemaExtension;
import com.unboundid.scim2.common.types.SchemaResource;
import com.unboundid.scim2.common.types.ServiceProviderConfigResource;
import com.unboundid.scim2.common.types.SortConfig;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.web.Open;
import ebb.store.push.Resource;
import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import java.security.Principal;
import java.util.Arrays;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What a sender can find out by itself (RFC 7644, section 4). */
@Open
@RestController
@RequestMapping(PushController.PATH)
class DiscoveryController {
  private static final ServiceProviderConfigResource CONFIG =
      new ServiceProviderConfigResource(
          null,
          new PatchConfig(true),
          new BulkConfig(true, Bulk.MOST_OPERATIONS, Bulk.MOST_BYTES),
          new FilterConfig(true, Search.MOST),
          new ChangePasswordConfig(false),
          new SortConfig(false),
          new ETagConfig(true),
          List.of(
              new AuthenticationScheme(
                  "Bearer token",
                  "The token of the feed, as its administrator made it.",
                  URI.create("https://www.rfc-editor.org/info/rfc6750"),
                  null,
                  "oauthbearertoken",
                  true)));

  private final PushSources sources;
  private final ScimAddress address;

  DiscoveryController(PushSources sources, ScimAddress address) {
    this.address = address;
    this.sources = sources;
  }

  @GetMapping("/ServiceProviderConfig")
  ResponseEntity<String> config(HttpServletRequest request) {
    return answer(shown(CONFIG, "ServiceProviderConfig", "/ServiceProviderConfig", request));
  }

  @GetMapping("/ResourceTypes")
  ResponseEntity<String> types(HttpServletRequest request, Principal principal) {
    mustNotFilter(request);
    return list(kinds(principal).stream().map(kind -> type(kind, request, principal)).toList());
  }

  @GetMapping("/ResourceTypes/{name}")
  ResponseEntity<String> type(
      @PathVariable String name, HttpServletRequest request, Principal principal) {
    return answer(
        kinds(principal).stream()
            .filter(kind -> Shown.type(kind).equalsIgnoreCase(name))
            .findFirst()
            .map(kind -> type(kind, request, principal))
            .orElseThrow(() -> Refusal.notFound("resource type", name, "See /ResourceTypes.")));
  }

  /** RFC 7644, section 4: such a client would take one answer for all there are. */
  private static void mustNotFilter(HttpServletRequest request) {
    if (request.getParameter("filter") != null) {
      throw new Refusal(
          Refusal.Kind.FORBIDDEN,
          new Problem(
              "scim-discovery-filter",
              "What the interface is like cannot be filtered.",
              "RFC 7644, section 4 has it refused.",
              "Ask without a filter, or for one by its id.",
              Where.field("filter")));
    }
  }

  /** Where no groups are taken, there is none to be found. */
  private List<Resource.Kind> kinds(Principal principal) {
    var sender = sources.sender(principal.getName());
    return Arrays.stream(Resource.Kind.values()).filter(sender::mayHave).toList();
  }

  private ObjectNode type(Resource.Kind kind, HttpServletRequest request, Principal principal) {
    var name = Shown.type(kind);
    var type =
        new ResourceTypeResource(
            name,
            name,
            PushSchemas.core(kind).getDescription(),
            URI.create("/" + name + "s"),
            URI.create(PushSchemas.core(kind).getId()),
            schemas(principal).extensions(kind).stream()
                .map(schema -> new SchemaExtension(URI.create(schema.getId()), false))
                .toList());
    return shown(type, "ResourceType", "/ResourceTypes/" + name, request);
  }

  @GetMapping("/Schemas")
  ResponseEntity<String> schemas(HttpServletRequest request, Principal principal) {
    mustNotFilter(request);
    return list(schemas(principal).all().stream().map(one -> schema(one, request)).toList());
  }

  @GetMapping("/Schemas/{id}")
  ResponseEntity<String> schema(
      @PathVariable String id, HttpServletRequest request, Principal principal) {
    return answer(
        schemas(principal).all().stream()
            .filter(one -> one.getId().equalsIgnoreCase(id))
            .findFirst()
            .map(one -> schema(one, request))
            .orElseThrow(() -> Refusal.notFound("schema", id, "See /Schemas.")));
  }

  private ObjectNode schema(SchemaResource schema, HttpServletRequest request) {
    return shown(schema, "Schema", "/Schemas/" + schema.getId(), request);
  }

  private PushSchemas schemas(Principal principal) {
    return sources.sender(principal.getName()).schemas();
  }

  private ObjectNode shown(
      ScimResource resource, String type, String path, HttpServletRequest request) {
    ObjectNode out = JsonUtils.valueToNode(resource);
    var meta = new Meta();
    meta.setResourceType(type);
    meta.setLocation(URI.create(address.toString() + path));
    out.set("meta", JsonUtils.valueToNode(meta));
    return out;
  }

  private static ResponseEntity<String> list(List<ObjectNode> all) {
    return answer(JsonUtils.valueToNode(new ListResponse<>(all)));
  }

  private static ResponseEntity<String> answer(ObjectNode body) {
    return PushAnswers.answer(HttpStatus.OK, body);
  }
}
