package eleutheria.server.web;

import eleutheria.core.directory.PlainText;
import eleutheria.core.ledger.Problem;
import eleutheria.server.problems.Refusal;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.core.MethodParameter;
import org.springframework.http.HttpInputMessage;
import org.springframework.http.converter.HttpMessageConverter;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.servlet.mvc.method.annotation.RequestBodyAdviceAdapter;

/** No form brings characters that nobody sees: whatever is typed goes through {@link PlainText}. */
@RestControllerAdvice
class HiddenCharacters extends RequestBodyAdviceAdapter {
  @Override
  public boolean supports(
      MethodParameter parameter, Type target, Class<? extends HttpMessageConverter<?>> converter) {
    return true;
  }

  @Override
  public Object afterBodyRead(
      Object body,
      HttpInputMessage message,
      MethodParameter parameter,
      Type target,
      Class<? extends HttpMessageConverter<?>> converter) {
    List<Problem> problems = new ArrayList<>();
    look(body, "", problems);
    if (!problems.isEmpty()) {
      throw new Refusal(problems);
    }
    return body;
  }

  private static void look(@Nullable Object value, String field, List<Problem> problems) {
    switch (value) {
      case null -> {}
      case String text -> {
        if (!field.endsWith("password") && PlainText.hides(text)) {
          problems.add(Problem.invalid("hidden-characters", field, PlainText.SENTENCE));
        }
      }
      case Collection<?> all -> all.forEach(each -> look(each, field, problems));
      case Map<?, ?> map ->
          map.forEach(
              (key, each) -> {
                look(key, field, problems);
                look(each, field, problems);
              });
      case Record form -> {
        for (RecordComponent component : form.getClass().getRecordComponents()) {
          look(read(component, form), component.getName(), problems);
        }
      }
      default -> {}
    }
  }

  private static @Nullable Object read(RecordComponent component, Record form) {
    try {
      component.getAccessor().setAccessible(true);
      return component.getAccessor().invoke(form);
    } catch (IllegalAccessException | InvocationTargetException e) {
      throw new IllegalStateException(e);
    }
  }
}
