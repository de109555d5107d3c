package eleutheria.server.state;

import static eleutheria.server.tables.Tables.*;

import eleutheria.core.facts.Duty;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestScope;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Collectors;

/** Facts of who decides requests as rows. */
final class RequestTables {
  static final List<FactTable> ALL =
      List.of(
          new FactTable(
              FactKey.Route.class,
              ROUTE,
              List.of(ROUTE.SCOPE),
              key -> List.of(((FactKey.Route) key).scope().word()),
              List.of(ROUTE.STEPS),
              value -> List.of(Routes.text((FactValue.Route) value)),
              r -> new FactKey.Route(RequestScope.parse(r.get(ROUTE.SCOPE))),
              (r, key) -> Routes.read(r.get(ROUTE.STEPS))),
          new FactTable(
              FactKey.RequestForm.class,
              REQUEST_FORM,
              List.of(REQUEST_FORM.SCOPE),
              key -> List.of(((FactKey.RequestForm) key).scope().word()),
              List.of(REQUEST_FORM.FORM),
              value -> List.of(RequestForms.text((FactValue.RequestForm) value)),
              r -> new FactKey.RequestForm(RequestScope.parse(r.get(REQUEST_FORM.SCOPE))),
              (r, key) -> RequestForms.read(r.get(REQUEST_FORM.FORM))),
          new FactTable(
              FactKey.Deputy.class,
              DEPUTY,
              List.of(DEPUTY.PERSON_ID, DEPUTY.DEPUTY_ID),
              key -> {
                FactKey.Deputy k = (FactKey.Deputy) key;
                return List.of(k.subject().value(), k.deputy().value());
              },
              List.of(DEPUTY.DUTIES),
              value ->
                  List.of(
                      ((FactValue.Duties) value)
                          .duties().stream().map(Duty::word).collect(Collectors.joining(" "))),
              r ->
                  new FactKey.Deputy(
                      new PersonId(r.get(DEPUTY.PERSON_ID)), new PersonId(r.get(DEPUTY.DEPUTY_ID))),
              (r, key) ->
                  new FactValue.Duties(
                      FactTable.words(r.get(DEPUTY.DUTIES)).stream()
                          .map(word -> Duty.of(word).orElseThrow())
                          .collect(Collectors.toCollection(TreeSet::new)))));

  private RequestTables() {}
}
