package ebb.service.push;

import ebb.core.problem.Problem;
import ebb.service.web.Open;
import jakarta.servlet.http.HttpServletRequest;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Whatever else is asked for below the interface, answered as SCIM answers. */
@Open
@RestController
class UnknownPath {
  private static final Map<Pattern, String> METHODS = new LinkedHashMap<>();

  static {
    METHODS.put(Pattern.compile("/(Users|Groups)"), "GET, POST");
    METHODS.put(Pattern.compile("/(Users|Groups)/\\.search"), "POST");
    METHODS.put(Pattern.compile("/(Users|Groups)/[^/]+"), "GET, PUT, PATCH, DELETE");
    METHODS.put(Pattern.compile("/Bulk"), "POST");
    METHODS.put(
        Pattern.compile("/(ServiceProviderConfig|(ResourceTypes|Schemas)(/[^/]+)?)"), "GET");
  }

  @RequestMapping(PushController.PATH + "/**")
  ResponseEntity<String> other(HttpServletRequest request) {
    var path = request.getRequestURI().substring(PushController.PATH.length());
    return allowed(path)
        .map(
            methods ->
                ResponseEntity.status(HttpStatus.METHOD_NOT_ALLOWED)
                    .header(HttpHeaders.ALLOW, methods)
                    .contentType(PushAnswers.SCIM)
                    .body(
                        ScimErrors.body(
                                HttpStatus.METHOD_NOT_ALLOWED,
                                List.of(methodUnknown(request.getMethod(), path, methods)))
                            .toString()))
        .orElseGet(
            () ->
                PushAnswers.answer(
                    HttpStatus.NOT_FOUND,
                    ScimErrors.body(HttpStatus.NOT_FOUND, List.of(pathUnknown(path)))));
  }

  private static Optional<String> allowed(String path) {
    return METHODS.entrySet().stream()
        .filter(one -> one.getKey().matcher(path).matches())
        .map(Map.Entry::getValue)
        .findFirst();
  }

  private static Problem methodUnknown(String method, String path, String methods) {
    return new Problem(
        "scim-method-unknown",
        "%s cannot be asked for with %s.".formatted(path, method),
        "There are %s.".formatted(methods),
        "Use one of them.",
        null);
  }

  private static Problem pathUnknown(String path) {
    return new Problem(
        "scim-path-unknown",
        "There is nothing at %s.".formatted(path.isEmpty() ? "/" : path),
        "The interface has Users, Groups, Bulk, Schemas, ResourceTypes and ServiceProviderConfig.",
        "Correct the address.",
        null);
  }
}
