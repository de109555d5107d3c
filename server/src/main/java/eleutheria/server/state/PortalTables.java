package eleutheria.server.state;

import static eleutheria.server.tables.Tables.*;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.FactJson;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Facts of tiles, collections, front pages and the brand as rows. */
final class PortalTables {
  static final List<FactTable> ALL =
      List.of(
          new FactTable(
              FactKey.Tile.class,
              TILE,
              List.of(TILE.TILE_ID),
              key -> List.of(((FactKey.Tile) key).subject().value()),
              List.of(
                  TILE.NAME,
                  TILE.LINE,
                  TILE.PICTURE,
                  TILE.HUE,
                  TILE.APPLICATION_ID,
                  TILE.NEEDS,
                  TILE.ADDRESS,
                  TILE.CONTACT,
                  TILE.APART,
                  TILE.DATED),
              value -> {
                FactValue.TileFace v = (FactValue.TileFace) value;
                return List.of(
                    v.name(),
                    v.line(),
                    v.picture(),
                    v.hue(),
                    v.application().value(),
                    FactTable.ids(v.needs()),
                    v.address(),
                    v.contact(),
                    v.apart(),
                    v.dated());
              },
              r -> new FactKey.Tile(new TileId(r.get(TILE.TILE_ID))),
              (r, key) ->
                  new FactValue.TileFace(
                      r.get(TILE.NAME),
                      r.get(TILE.LINE),
                      r.get(TILE.PICTURE),
                      r.get(TILE.HUE),
                      new ApplicationId(r.get(TILE.APPLICATION_ID)),
                      FactTable.entitlements(r.get(TILE.NEEDS)),
                      r.get(TILE.ADDRESS),
                      r.get(TILE.CONTACT),
                      r.get(TILE.APART),
                      r.get(TILE.DATED))),
          new FactTable(
              FactKey.Shown.class,
              SHOWN,
              List.of(SHOWN.TILE_ID),
              key -> List.of(((FactKey.Shown) key).subject().value()),
              List.of(),
              FactTable.NOTHING,
              r -> new FactKey.Shown(new TileId(r.get(SHOWN.TILE_ID))),
              FactTable.PRESENT),
          new FactTable(
              FactKey.Collection.class,
              COLLECTION,
              List.of(COLLECTION.COLLECTION_ID),
              key -> List.of(((FactKey.Collection) key).subject().value()),
              List.of(COLLECTION.NAME, COLLECTION.LINE),
              value -> {
                FactValue.CollectionFace v = (FactValue.CollectionFace) value;
                return List.of(v.name(), v.line());
              },
              r -> new FactKey.Collection(new CollectionId(r.get(COLLECTION.COLLECTION_ID))),
              (r, key) ->
                  new FactValue.CollectionFace(r.get(COLLECTION.NAME), r.get(COLLECTION.LINE))),
          new FactTable(
              FactKey.Audience.class,
              AUDIENCE,
              List.of(AUDIENCE.OBJECT_ID, AUDIENCE.OBJECT_KIND),
              key -> {
                ObjectId subject = ((FactKey.Audience) key).subject();
                return List.of(subject.value(), subject.kind().word());
              },
              List.of(AUDIENCE.EVERYONE, AUDIENCE.SUBJECTS, AUDIENCE.FIRST_DAYS),
              PortalTables::audience,
              r ->
                  new FactKey.Audience(
                      ObjectId.of(
                          ObjectKind.of(r.get(AUDIENCE.OBJECT_KIND)), r.get(AUDIENCE.OBJECT_ID))),
              (r, key) ->
                  audience(
                      r.get(AUDIENCE.EVERYONE),
                      r.get(AUDIENCE.SUBJECTS),
                      r.get(AUDIENCE.FIRST_DAYS))),
          new FactTable(
              FactKey.Brand.class,
              BRAND,
              List.of(BRAND.ORGANISATION),
              key -> List.of((byte) 1),
              List.of(
                  BRAND.NAME,
                  BRAND.MARK,
                  BRAND.BAND,
                  BRAND.WELCOME,
                  BRAND.DOOR,
                  BRAND.HELP,
                  BRAND.FORM,
                  BRAND.TIGHT),
              value -> {
                FactValue.Brand v = (FactValue.Brand) value;
                return List.of(
                    v.name(),
                    v.mark(),
                    v.band(),
                    v.welcome(),
                    v.door(),
                    v.help(),
                    v.form(),
                    v.tight());
              },
              r -> FactKey.Brand.ORGANISATION,
              (r, key) ->
                  new FactValue.Brand(
                      r.get(BRAND.NAME),
                      r.get(BRAND.MARK),
                      r.get(BRAND.BAND),
                      r.get(BRAND.WELCOME),
                      r.get(BRAND.DOOR),
                      r.get(BRAND.HELP),
                      r.get(BRAND.FORM),
                      r.get(BRAND.TIGHT))),
          new FactTable(
              FactKey.Front.class,
              FRONT,
              List.of(FRONT.FRONT_PAGE_ID),
              key -> List.of(((FactKey.Front) key).subject().value()),
              List.of(FRONT.NAME, FRONT.ONLY_THESE, FRONT.IN_WAVES),
              value -> {
                FactValue.FrontFace v = (FactValue.FrontFace) value;
                return List.of(v.name(), v.only(), v.waves());
              },
              r -> new FactKey.Front(new FrontPageId(r.get(FRONT.FRONT_PAGE_ID))),
              (r, key) ->
                  new FactValue.FrontFace(
                      r.get(FRONT.NAME), r.get(FRONT.ONLY_THESE), r.get(FRONT.IN_WAVES))),
          new FactTable(
              FactKey.FrontRank.class,
              FRONT_RANK,
              List.of(FRONT_RANK.FRONT_PAGE_ID),
              key -> List.of(((FactKey.FrontRank) key).subject().value()),
              List.of(FRONT_RANK.PLACE),
              value -> List.of(((FactValue.Text) value).text()),
              r -> new FactKey.FrontRank(new FrontPageId(r.get(FRONT_RANK.FRONT_PAGE_ID))),
              (r, key) -> new FactValue.Text(r.get(FRONT_RANK.PLACE))),
          new FactTable(
              FactKey.FrontNotice.class,
              FRONT_NOTICE,
              List.of(FRONT_NOTICE.FRONT_PAGE_ID),
              key -> List.of(((FactKey.FrontNotice) key).subject().value()),
              List.of(FRONT_NOTICE.NOTICE),
              value -> List.of(((FactValue.Text) value).text()),
              r -> new FactKey.FrontNotice(new FrontPageId(r.get(FRONT_NOTICE.FRONT_PAGE_ID))),
              (r, key) -> new FactValue.Text(r.get(FRONT_NOTICE.NOTICE))),
          new FactTable(
              FactKey.FrontWave.class,
              FRONT_WAVE,
              List.of(FRONT_WAVE.FRONT_PAGE_ID, FRONT_WAVE.WAVE),
              key -> {
                FactKey.FrontWave k = (FactKey.FrontWave) key;
                return List.of(k.subject().value(), k.wave());
              },
              List.of(FRONT_WAVE.EVERYONE, FRONT_WAVE.SUBJECTS, FRONT_WAVE.FIRST_DAYS),
              PortalTables::audience,
              r ->
                  new FactKey.FrontWave(
                      new FrontPageId(r.get(FRONT_WAVE.FRONT_PAGE_ID)), r.get(FRONT_WAVE.WAVE)),
              (r, key) ->
                  audience(
                      r.get(FRONT_WAVE.EVERYONE),
                      r.get(FRONT_WAVE.SUBJECTS),
                      r.get(FRONT_WAVE.FIRST_DAYS))),
          new FactTable(
              FactKey.Placed.class,
              PLACED,
              List.of(PLACED.COLLECTION_ID, PLACED.TILE_ID),
              key -> {
                FactKey.Placed k = (FactKey.Placed) key;
                return List.of(k.subject().value(), k.tile().value());
              },
              List.of(PLACED.PLACE, PLACED.OFFERED),
              value -> {
                FactValue.Place v = (FactValue.Place) value;
                return List.of(v.rank(), v.offered());
              },
              r ->
                  new FactKey.Placed(
                      new CollectionId(r.get(PLACED.COLLECTION_ID)),
                      new TileId(r.get(PLACED.TILE_ID))),
              (r, key) -> new FactValue.Place(r.get(PLACED.PLACE), r.get(PLACED.OFFERED))),
          new FactTable(
              FactKey.Fronted.class,
              FRONTED,
              List.of(FRONTED.FRONT_PAGE_ID, FRONTED.COLLECTION_ID),
              key -> {
                FactKey.Fronted k = (FactKey.Fronted) key;
                return List.of(k.subject().value(), k.collection().value());
              },
              List.of(FRONTED.PLACE),
              value -> List.of(((FactValue.Text) value).text()),
              r ->
                  new FactKey.Fronted(
                      new FrontPageId(r.get(FRONTED.FRONT_PAGE_ID)),
                      new CollectionId(r.get(FRONTED.COLLECTION_ID))),
              (r, key) -> new FactValue.Text(r.get(FRONTED.PLACE))));

  private PortalTables() {}

  private static List<@Nullable Object> audience(FactValue value) {
    FactValue.Audience v = (FactValue.Audience) value;
    return List.of(
        v.everyone(),
        CanonicalJson.write(v.subjects().stream().map(FactJson::subject).toList()),
        (short) v.firstDays());
  }

  private static FactValue.Audience audience(boolean everyone, String json, short firstDays) {
    List<FactValue.Subject> subjects = new java.util.ArrayList<>();
    for (Object s : FactTable.JSON.readValue(json, List.class)) {
      subjects.add(FactJson.subject((Map<?, ?>) s));
    }
    return new FactValue.Audience(everyone, subjects, firstDays);
  }
}
