package eleutheria.server.web;

import eleutheria.server.settings.ServerSettings;
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
import org.springframework.session.web.http.CookieSerializer;
import org.springframework.session.web.http.DefaultCookieSerializer;

/**
 * The outer walls: headers, cookies, CSRF. Who may call what is decided behind them, in the gate.
 */
@Configuration
class Security {
  private static final String CONTENT =
      "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src"
          + " 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors"
          + " 'none'; manifest-src 'self'";

  @Bean
  SecurityFilterChain chain(HttpSecurity http, SecurityContextRepository contexts)
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
        .csrf(csrf -> csrf.spa())
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
