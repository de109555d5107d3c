package eleutheria.server.drafts;

import static eleutheria.core.ledger.JsonMembers.list;
import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.core.ledger.JsonMembers.text;
import static java.util.Objects.requireNonNull;

import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.FactJson;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** A draft's edit as text, in the words of the ledger, and back. */
final class DraftJson {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private DraftJson() {}

  /** What an edit holds beside its number, author and times. */
  record Content(Act act, List<Edit> edits) {}

  static String write(Act act, List<Edit> edits) {
    Map<String, Object> json = new LinkedHashMap<>();
    json.put("act", act.name().word());
    json.put("objects", act.objects().stream().map(ObjectId::text).toList());
    json.put("reason", act.reason());
    json.put("details", act.details());
    json.put("edits", edits.stream().map(DraftJson::edit).toList());
    return CanonicalJson.write(json);
  }

  private static Map<String, Object> edit(Edit edit) {
    Map<String, Object> json = new LinkedHashMap<>();
    json.put("kind", FactJson.kind(edit.key()));
    json.put("key", FactJson.key(edit.key()));
    side(json, "base", edit.base());
    side(json, "wanted", edit.wanted());
    return json;
  }

  private static void side(Map<String, Object> json, String side, @Nullable Spell spell) {
    if (spell != null) {
      json.put(
          side,
          Map.of(
              "from",
              Moments.text(spell.from()),
              "until",
              Moments.text(spell.until()),
              "value",
              FactJson.value(spell.value())));
    }
  }

  static Content read(String text) {
    Map<?, ?> json = JSON.readValue(text, Map.class);
    List<ObjectId> objects = new ArrayList<>();
    list(json, "objects").forEach(o -> objects.add(ObjectId.parse((String) o)));
    Map<String, Object> details = new LinkedHashMap<>();
    object(json, "details").forEach((key, value) -> details.put((String) key, value));
    List<Edit> edits = new ArrayList<>();
    for (Object each : list(json, "edits")) {
      Map<?, ?> map = (Map<?, ?>) each;
      FactKey key = FactJson.key(text(map, "kind"), object(map, "key"));
      edits.add(new Edit(key, spell(key, map.get("base")), spell(key, map.get("wanted"))));
    }
    return new Content(
        new Act(ActName.of(text(json, "act")), objects, text(json, "reason"), details), edits);
  }

  private static @Nullable Spell spell(FactKey key, @Nullable Object side) {
    return side instanceof Map<?, ?> map
        ? new Spell(
            FactJson.value(key, requireNonNull(map.get("value"))),
            Moments.parse(text(map, "from")),
            Moments.parse(text(map, "until")))
        : null;
  }
}
