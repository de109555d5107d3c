package eleutheria.server.gate;

import eleutheria.server.problems.ProblemView;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.web.SecurityLog;
import eleutheria.server.web.SessionTokens;
import jakarta.servlet.DispatcherType;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.security.config.Customizer;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.security.web.util.matcher.AnyRequestMatcher;
import org.springframework.session.web.http.CookieSerializer;
import org.springframework.session.web.http.DefaultCookieSerializer;

/**
 * The outer walls: headers, cookies, CSRF. Who may call what is decided behind them, in the gate.
 */
@Configuration
class Security {
  private static final String CONTENT =
      "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src"
          + " 'self'; connect-src 'self'; frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors"
          + " 'none'; manifest-src 'self'";

  private static final long YEAR = 365L * 24 * 60 * 60;

  @Bean
  SecurityFilterChain chain(
      HttpSecurity http,
      SecurityContextRepository contexts,
      SessionTokens tokens,
      ProblemWriter problems,
      SecurityLog security,
      ServerSettings settings)
      throws Exception {
    return http.authorizeHttpRequests(
            requests ->
                requests
                    .dispatcherTypeMatchers(DispatcherType.ASYNC, DispatcherType.ERROR)
                    .permitAll()
                    .requestMatchers("/actuator/health/**", "/actuator/health")
                    .permitAll()
                    .requestMatchers("/actuator/**")
                    .denyAll()
                    // Every endpoint of ours passes the gate, which refuses by default.
                    .anyRequest()
                    .permitAll())
        .csrf(csrf -> csrf.csrfTokenRepository(tokens).csrfTokenRequestHandler(tokens))
        .exceptionHandling(
            handling ->
                handling.accessDeniedHandler(
                    (request, response, e) -> {
                      security.refused(request, null, "csrf");
                      problems.write(
                          response,
                          ProblemView.of(
                              403,
                              "csrf",
                              "Refused",
                              "The page's token is missing or of an earlier sign-in; nothing was"
                                  + " done."));
                    }))
        .securityContext(context -> context.securityContextRepository(contexts))
        .requestCache(cache -> cache.disable())
        .formLogin(form -> form.disable())
        .httpBasic(basic -> basic.disable())
        .logout(logout -> logout.disable())
        .anonymous(Customizer.withDefaults())
        .headers(
            headers ->
                headers
                    .contentSecurityPolicy(policy -> policy.policyDirectives(CONTENT))
                    .referrerPolicy(policy -> policy.policy(ReferrerPolicy.SAME_ORIGIN))
                    .httpStrictTransportSecurity(
                        strict -> {
                          if (settings.secure()) {
                            strict
                                .requestMatcher(AnyRequestMatcher.INSTANCE)
                                .includeSubDomains(true)
                                .maxAgeInSeconds(YEAR);
                          } else {
                            strict.disable();
                          }
                        })
                    .frameOptions(frames -> frames.deny())
                    .permissionsPolicyHeader(
                        policy ->
                            policy.policy("camera=(), geolocation=(), microphone=(), payment=()")))
        .build();
  }

  /** Sign-in has an endpoint of its own; this keeps a generated password from being made. */
  @Bean
  UserDetailsService nobody() {
    return name -> {
      throw new UsernameNotFoundException(name);
    };
  }

  @Bean
  CookieSerializer cookies(ServerSettings settings) {
    DefaultCookieSerializer cookies = new DefaultCookieSerializer();
    cookies.setCookieName(settings.secure() ? "__Host-eleutheria" : "eleutheria");
    cookies.setUseSecureCookie(settings.secure());
    cookies.setUseHttpOnlyCookie(true);
    cookies.setSameSite("Lax");
    cookies.setCookiePath("/");
    return cookies;
  }
}
