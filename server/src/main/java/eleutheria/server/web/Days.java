package eleutheria.server.web;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.Locale;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.format.FormatterRegistry;
import org.springframework.format.Parser;
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

  private static final class DayInAddress implements Parser<LocalDate> {
    @Override
    public LocalDate parse(String text, Locale locale) {
      return inReach(text);
    }
  }

  /** Days in addresses; an empty one is none. */
  @Bean
  WebMvcConfigurer daysInAddresses() {
    return new WebMvcConfigurer() {
      @Override
      public void addFormatters(FormatterRegistry registry) {
        registry.addParser(new DayInAddress());
      }
    };
  }

  private static LocalDate inReach(String text) {
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
