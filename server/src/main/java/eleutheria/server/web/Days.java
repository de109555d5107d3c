package eleutheria.server.web;

import java.time.DateTimeException;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.format.FormatterRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.JacksonModule;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.module.SimpleModule;

/**
 * Days in requests (ISO 8601, yyyy-mm-dd) lie in the years 1900 to 9000: what is later than any
 * time the tables can hold is a slip of the finger.
 */
@Configuration
class Days {
  private static final int FIRST = 1900;
  private static final int LAST = 9000;

  /** Days in addresses. */
  @Bean
  WebMvcConfigurer daysInAddresses() {
    return new WebMvcConfigurer() {
      @Override
      public void addFormatters(FormatterRegistry registry) {
        registry.addConverter(String.class, LocalDate.class, Days::inReach);
      }
    };
  }

  private static @Nullable LocalDate inReach(String text) {
    if (text.isEmpty()) {
      return null;
    }
    LocalDate day = LocalDate.parse(text);
    if (day.getYear() < FIRST || day.getYear() > LAST) {
      throw new IllegalArgumentException("not between %d and %d".formatted(FIRST, LAST));
    }
    return day;
  }

  @Bean
  JacksonModule daysInReach() {
    return new SimpleModule("days").addDeserializer(LocalDate.class, new InReach());
  }

  private static final class InReach extends ValueDeserializer<LocalDate> {
    @Override
    public LocalDate deserialize(JsonParser parser, DeserializationContext context) {
      String text = parser.getValueAsString("");
      try {
        LocalDate day = LocalDate.parse(text);
        if (day.getYear() >= FIRST && day.getYear() <= LAST) {
          return day;
        }
      } catch (DateTimeException e) {
        return (LocalDate) context.handleWeirdStringValue(LocalDate.class, text, "not a day");
      }
      return (LocalDate)
          context.handleWeirdStringValue(
              LocalDate.class, text, "not between %d and %d", FIRST, LAST);
    }
  }
}
