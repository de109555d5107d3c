package eleutheria.core.access.engine;

import org.roaringbitmap.RoaringBitmap;

/** For each value of one attribute, who has it. */
final class ByValue {
  private ByValue() {}

  static Chunks<RoaringBitmap> of(Snapshot snapshot, int attribute) {
    Words words = snapshot.store.words(attribute);
    IntChunks column = snapshot.column(attribute);
    RoaringBitmap[] sets = new RoaringBitmap[words.size()];
    snapshot
        .state
        .people()
        .forEach(
            (int person) -> {
              for (int code : words.decode(column.get(person))) {
                if (sets[code] == null) {
                  sets[code] = new RoaringBitmap();
                }
                sets[code].add(person);
              }
            });
    Chunks.Editor<RoaringBitmap> editor = Chunks.<RoaringBitmap>empty().edit();
    for (int code = 0; code < sets.length; code++) {
      if (sets[code] != null) {
        editor.set(code, sets[code]);
      }
    }
    return editor.done();
  }
}
