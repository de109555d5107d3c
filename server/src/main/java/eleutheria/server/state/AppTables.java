package eleutheria.server.state;

import static eleutheria.server.tables.Tables.*;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Sensitivity;
import java.util.List;

/** Facts of applications and their entitlements as rows. */
final class AppTables {
  static final List<FactTable> ALL =
      List.of(
          new FactTable(
              FactKey.Application.class,
              APPLICATION,
              List.of(APPLICATION.APPLICATION_ID),
              key -> List.of(((FactKey.Application) key).subject().value()),
              List.of(
                  APPLICATION.NAME,
                  APPLICATION.LINE,
                  APPLICATION.PICTURE,
                  APPLICATION.HUE,
                  APPLICATION.SENSITIVITY,
                  APPLICATION.CONTACT,
                  APPLICATION.NICKNAMES),
              value -> {
                FactValue.Profile v = (FactValue.Profile) value;
                return List.of(
                    v.name(),
                    v.line(),
                    v.picture(),
                    v.hue(),
                    v.sensitivity().word(),
                    v.contact(),
                    String.join("\n", v.nicknames()));
              },
              r -> new FactKey.Application(new ApplicationId(r.get(APPLICATION.APPLICATION_ID))),
              (r, key) ->
                  new FactValue.Profile(
                      r.get(APPLICATION.NAME),
                      r.get(APPLICATION.LINE),
                      r.get(APPLICATION.PICTURE),
                      r.get(APPLICATION.HUE),
                      Sensitivity.of(r.get(APPLICATION.SENSITIVITY)),
                      r.get(APPLICATION.CONTACT),
                      r.get(APPLICATION.NICKNAMES).lines().toList())),
          new FactTable(
              FactKey.AppState.class,
              APPLICATION_STATE,
              List.of(APPLICATION_STATE.APPLICATION_ID),
              key -> List.of(((FactKey.AppState) key).subject().value()),
              List.of(APPLICATION_STATE.STATE),
              value -> List.of(((FactValue.AppState) value).state().word()),
              r -> new FactKey.AppState(new ApplicationId(r.get(APPLICATION_STATE.APPLICATION_ID))),
              (r, key) ->
                  new FactValue.AppState(ApplicationState.of(r.get(APPLICATION_STATE.STATE)))),
          new FactTable(
              FactKey.WayIn.class,
              WAY_IN,
              List.of(WAY_IN.APPLICATION_ID),
              key -> List.of(((FactKey.WayIn) key).subject().value()),
              List.of(WAY_IN.WAY, WAY_IN.ADDRESS),
              value ->
                  switch ((FactValue.WayIn) value) {
                    case FactValue.WayIn.Link v -> FactTable.row("link", v.address());
                  },
              r -> new FactKey.WayIn(new ApplicationId(r.get(WAY_IN.APPLICATION_ID))),
              (r, key) -> new FactValue.WayIn.Link(r.get(WAY_IN.ADDRESS))),
          new FactTable(
              FactKey.Seats.class,
              SEATS,
              List.of(SEATS.APPLICATION_ID),
              key -> List.of(((FactKey.Seats) key).subject().value()),
              List.of(SEATS.SEAT_COUNT, SEATS.PRICE, SEATS.CURRENCY),
              value -> {
                FactValue.Seats seats = (FactValue.Seats) value;
                return List.of(seats.count(), seats.price(), seats.currency());
              },
              r -> new FactKey.Seats(new ApplicationId(r.get(SEATS.APPLICATION_ID))),
              (r, key) ->
                  new FactValue.Seats(
                      r.get(SEATS.SEAT_COUNT), r.get(SEATS.PRICE), r.get(SEATS.CURRENCY))),
          new FactTable(
              FactKey.Entitlement.class,
              ENTITLEMENT,
              List.of(ENTITLEMENT.ENTITLEMENT_ID),
              key -> List.of(((FactKey.Entitlement) key).subject().value()),
              List.of(
                  ENTITLEMENT.APPLICATION_ID,
                  ENTITLEMENT.NAME,
                  ENTITLEMENT.LINE,
                  ENTITLEMENT.SENSITIVITY,
                  ENTITLEMENT.REQUESTABLE),
              value -> {
                FactValue.Role v = (FactValue.Role) value;
                return List.of(
                    v.application().value(),
                    v.name(),
                    v.line(),
                    v.sensitivity().word(),
                    v.requestable());
              },
              r -> new FactKey.Entitlement(new EntitlementId(r.get(ENTITLEMENT.ENTITLEMENT_ID))),
              (r, key) ->
                  new FactValue.Role(
                      new ApplicationId(r.get(ENTITLEMENT.APPLICATION_ID)),
                      r.get(ENTITLEMENT.NAME),
                      r.get(ENTITLEMENT.LINE),
                      Sensitivity.of(r.get(ENTITLEMENT.SENSITIVITY)),
                      r.get(ENTITLEMENT.REQUESTABLE))));

  private AppTables() {}
}
