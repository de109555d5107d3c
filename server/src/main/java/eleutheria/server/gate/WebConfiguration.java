package eleutheria.server.gate;

import eleutheria.server.problems.ProblemView;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Viewer;
import io.swagger.v3.core.converter.ModelConverters;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import io.swagger.v3.oas.models.parameters.HeaderParameter;
import io.swagger.v3.oas.models.servers.Server;
import jakarta.servlet.Filter;
import jakarta.servlet.http.HttpServletResponse;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.customizers.OperationCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.MethodParameter;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.PathResourceResolver;

/** How requests come in: the gate before every endpoint, and the single page for all views. */
@Configuration
@EnableScheduling
@EnableConfigurationProperties(ServerSettings.class)
class WebConfiguration implements WebMvcConfigurer {
  private final Gate gate;

  WebConfiguration(@org.springframework.context.annotation.Lazy Gate gate) {
    this.gate = gate;
  }

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry.addInterceptor(gate);
  }

  @Override
  public void addArgumentResolvers(List<HandlerMethodArgumentResolver> resolvers) {
    resolvers.add(gate);
  }

  @Override
  public void addResourceHandlers(ResourceHandlerRegistry registry) {
    registry
        .addResourceHandler("/assets/**")
        .addResourceLocations("classpath:/static/assets/")
        .setCacheControl(CacheControl.maxAge(365, TimeUnit.DAYS).cachePublic().immutable());
    registry
        .addResourceHandler("/**")
        .addResourceLocations("classpath:/static/")
        .setCacheControl(CacheControl.noCache())
        .resourceChain(false)
        .addResolver(new SinglePage());
  }

  /**
   * Tells the browser with the front page itself what it will ask for (RFC 8288; HTML, section
   * 4.6.7.13), so that the data comes while the programs do.
   */
  @Bean
  FilterRegistrationBean<Filter> dataComesAlong() {
    FilterRegistrationBean<Filter> filter =
        new FilterRegistrationBean<>(
            (request, response, chain) -> {
              ((HttpServletResponse) response)
                  .setHeader("Link", "</api/front>; rel=preload; as=fetch; crossorigin");
              chain.doFilter(request, response);
            });
    filter.addUrlPatterns("");
    return filter;
  }

  /** The page for every view's address; a missing file stays missing. */
  private static final class SinglePage extends PathResourceResolver {
    @Override
    protected @org.jspecify.annotations.Nullable Resource getResource(
        String path, Resource location) throws java.io.IOException {
      Resource file = super.getResource(path, location);
      if (file != null) {
        return file;
      }
      boolean view =
          !path.contains(".")
              && !path.startsWith("api/")
              && !path.startsWith("oauth2/")
              && !path.startsWith("saml/")
              && !path.startsWith("scim/")
              && !path.startsWith(".well-known/");
      return view ? new ClassPathResource("static/index.html") : null;
    }
  }

  static {
    // Made by the gate, never sent.
    SpringDocUtils.getConfig().addRequestWrapperToIgnore(Viewer.class, IdempotencyKey.class);
  }

  /** Says of every endpoint that takes an {@code Idempotency-Key} that it does. */
  @Bean
  OperationCustomizer repeatable() {
    return (operation, handler) -> {
      for (MethodParameter parameter : handler.getMethodParameters()) {
        if (parameter.getParameterType() == IdempotencyKey.class) {
          operation.addParametersItem(
              new HeaderParameter()
                  .name(IdempotencyKey.HEADER)
                  .required(false)
                  .schema(new StringSchema()));
        }
      }
      return operation;
    };
  }

  /** Makes the document stable: one server, every field of an answer required unless nullable. */
  @Bean
  OpenApiCustomizer stableDocument() {
    return api -> {
      api.setInfo(new Info().title("Eleutheria").version("1"));
      api.setServers(List.of(new Server().url("/")));
      ModelConverters.getInstance(true)
          .readAllAsResolvedSchema(ProblemView.class)
          .referencedSchemas
          .forEach(api.getComponents()::addSchemas);
      requireFields(api);
    };
  }

  @SuppressWarnings("rawtypes")
  private static void requireFields(OpenAPI api) {
    for (Schema schema : api.getComponents().getSchemas().values()) {
      if (schema.getProperties() != null && schema.getRequired() == null) {
        List<String> required = new ArrayList<>();
        for (Object name : schema.getProperties().keySet()) {
          required.add((String) name);
        }
        required.forEach(schema::addRequiredItem);
      }
    }
  }
}
