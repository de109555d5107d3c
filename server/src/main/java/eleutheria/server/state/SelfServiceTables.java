package eleutheria.server.state;

import static eleutheria.server.tables.Tables.*;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ListingId;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.FactJson;
import java.util.List;
import java.util.Map;

/** Facts of what people may bring to their own portal as rows. */
final class SelfServiceTables {
  static final List<FactTable> ALL =
      List.of(
          new FactTable(
              FactKey.SelfService.class,
              SELF_SERVICE,
              List.of(SELF_SERVICE.ORGANISATION),
              key -> List.of((byte) 1),
              List.of(SELF_SERVICE.RULES),
              value ->
                  List.of(
                      CanonicalJson.write(
                          ((FactValue.SelfService) value)
                              .rules().stream().map(FactJson::rule).toList())),
              r -> FactKey.SelfService.ORGANISATION,
              (r, key) -> {
                List<FactValue.SelfServiceLine> rules = new java.util.ArrayList<>();
                for (Object rule :
                    FactTable.JSON.readValue(r.get(SELF_SERVICE.RULES), List.class)) {
                  rules.add(FactJson.rule((Map<?, ?>) rule));
                }
                return new FactValue.SelfService(rules);
              }),
          new FactTable(
              FactKey.Approved.class,
              APPROVED,
              List.of(APPROVED.LISTING_ID),
              key -> List.of(((FactKey.Approved) key).subject().value()),
              List.of(
                  APPROVED.NAME,
                  APPROVED.ADDRESS,
                  APPROVED.LINE,
                  APPROVED.CATEGORY,
                  APPROVED.PICTURE,
                  APPROVED.HUE),
              value -> {
                FactValue.Listing v = (FactValue.Listing) value;
                return List.of(v.name(), v.address(), v.line(), v.category(), v.picture(), v.hue());
              },
              r -> new FactKey.Approved(new ListingId(r.get(APPROVED.LISTING_ID))),
              (r, key) ->
                  new FactValue.Listing(
                      r.get(APPROVED.NAME),
                      r.get(APPROVED.ADDRESS),
                      r.get(APPROVED.LINE),
                      r.get(APPROVED.CATEGORY),
                      r.get(APPROVED.PICTURE),
                      r.get(APPROVED.HUE))));

  private SelfServiceTables() {}
}
