package eleutheria.server.state;

import static eleutheria.server.tables.Tables.*;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.FactJson;
import java.util.List;

/** Facts of mandates as rows. */
final class MandateTables {
  static final List<FactTable> ALL =
      List.of(
          new FactTable(
              FactKey.Mandate.class,
              MANDATE,
              List.of(MANDATE.MANDATE_ID),
              key -> List.of(((FactKey.Mandate) key).subject().value()),
              List.of(MANDATE.NAME, MANDATE.LINE, MANDATE.POWERS, MANDATE.REACH),
              value -> {
                FactValue.Terms v = (FactValue.Terms) value;
                return List.of(
                    v.name(),
                    v.line(),
                    String.join(" ", v.powers()),
                    CanonicalJson.write(FactJson.reach(v.reach())));
              },
              r -> new FactKey.Mandate(new MandateId(r.get(MANDATE.MANDATE_ID))),
              (r, key) ->
                  new FactValue.Terms(
                      r.get(MANDATE.NAME),
                      r.get(MANDATE.LINE),
                      FactTable.words(r.get(MANDATE.POWERS)),
                      FactJson.reach(FactTable.map(r.get(MANDATE.REACH))))),
          new FactTable(
              FactKey.MandateHeld.class,
              MANDATE_HELD,
              List.of(MANDATE_HELD.MANDATE_ID, MANDATE_HELD.HOLDER_ID, MANDATE_HELD.HOLDER_KIND),
              key -> {
                FactKey.MandateHeld k = (FactKey.MandateHeld) key;
                return List.of(k.subject().value(), k.holder().value(), k.holder().kind().word());
              },
              List.of(),
              FactTable.NOTHING,
              r ->
                  new FactKey.MandateHeld(
                      new MandateId(r.get(MANDATE_HELD.MANDATE_ID)),
                      ObjectId.of(
                          ObjectKind.of(r.get(MANDATE_HELD.HOLDER_KIND)),
                          r.get(MANDATE_HELD.HOLDER_ID))),
              FactTable.PRESENT));

  private MandateTables() {}
}
