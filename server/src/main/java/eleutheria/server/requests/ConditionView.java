package eleutheria.server.requests;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.filter.Filter;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.directory.filter.FilterShape;
import eleutheria.core.directory.filter.FilterWords;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.requests.AskedForm;
import eleutheria.server.refs.ShapeView;
import org.jspecify.annotations.Nullable;

/**
 * A condition of a question or a step as it is read and edited.
 *
 * @param shape null where there is none, or where it can no longer be read
 * @param words the same in words; empty where there is none
 */
record ConditionView(@Nullable ShapeView shape, String words) {
  static ConditionView of(DirectoryView directory, FactValue.RequestForm form, Question question) {
    return of(directory, form, AskedForm.schema(form, question, directory), question.shownWhen());
  }

  static ConditionView of(DirectoryView directory, FactValue.RequestForm form, RouteStep step) {
    return of(directory, form, AskedForm.schema(form, directory), step.onlyIf());
  }

  private static ConditionView of(
      DirectoryView directory, FactValue.RequestForm form, FilterSchema schema, String filter) {
    if (filter.isBlank()
        || !(FilterParser.parse(filter, schema) instanceof FilterParser.Parsed.Good(Filter read))) {
      return new ConditionView(null, filter);
    }
    FilterWords words =
        new FilterWords(schema, name -> label(directory, form, name), id -> "a certain person");
    FilterShape shape = FilterShape.of(read);
    return new ConditionView(ShapeView.of(shape), words.clause(shape));
  }

  private static String label(DirectoryView directory, FactValue.RequestForm form, String name) {
    return form.questions().stream()
        .filter(each -> each.key().equals(name))
        .map(each -> "“" + each.label() + "”")
        .findFirst()
        .orElseGet(
            () ->
                directory.definitions().containsKey(name)
                    ? directory.definitions().get(name).label()
                    : name);
  }
}
