package ebb.service.openapi;

import ebb.service.web.Allowed;
import io.swagger.v3.oas.models.media.Schema;
import java.util.ArrayList;
import java.util.regex.Pattern;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.customizers.OperationCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Says who may use an endpoint, and that answers hold all their fields, null ones too. */
@Configuration
class Description {
  static final String ACT = "x-ebb-act";

  /** Requests may leave fields out. */
  private static final Pattern ANSWERS = Pattern.compile("Listing.*|.*View|.*Summary");

  @Bean
  OperationCustomizer acts() {
    return (operation, method) -> {
      var allowed = method.getMethodAnnotation(Allowed.class);
      operation.addExtension(ACT, allowed == null ? "open" : allowed.value().word());
      return operation;
    };
  }

  @Bean
  OpenApiCustomizer fields() {
    return description ->
        description
            .getComponents()
            .getSchemas()
            .forEach(
                (name, schema) -> {
                  if (ANSWERS.matcher(name).matches()) {
                    requireAll(schema);
                  }
                });
  }

  private static void requireAll(Schema<?> schema) {
    if (schema.getProperties() != null && schema.getRequired() == null) {
      schema.setRequired(new ArrayList<>(schema.getProperties().keySet()));
    }
  }
}
