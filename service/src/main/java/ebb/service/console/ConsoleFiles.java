package ebb.service.console;

import java.time.Duration;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** The console's files. Their names hold a hash of what is in them: a browser may keep them. */
@Configuration
class ConsoleFiles implements WebMvcConfigurer {
  private static final Duration KEPT = Duration.ofDays(365);

  @Override
  public void addResourceHandlers(ResourceHandlerRegistry registry) {
    registry
        .addResourceHandler("/assets/**")
        .addResourceLocations("classpath:/console/assets/")
        .setCacheControl(CacheControl.maxAge(KEPT).cachePublic().immutable());
  }
}
