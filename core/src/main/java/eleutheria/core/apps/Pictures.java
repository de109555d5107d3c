package eleutheria.core.apps;

import java.util.List;

/** The small sets of pictures and colours that applications and tiles choose from. */
public final class Pictures {
  /** Names of the pictures; the web draws each from its sprite. */
  public static final List<String> PICTURES =
      List.of(
          "anchor",
          "bank",
          "barricade",
          "boat",
          "books",
          "calendar",
          "chart",
          "chat",
          "clipboard",
          "clock",
          "coat",
          "coins",
          "cooking",
          "envelope",
          "faucet",
          "fire",
          "first-aid",
          "fish",
          "flag",
          "folder",
          "gas-pump",
          "gauge",
          "graduation",
          "hammer",
          "handshake",
          "key",
          "lifebuoy",
          "map",
          "megaphone",
          "newspaper",
          "notebook",
          "phone",
          "printer",
          "receipt",
          "signpost",
          "sun",
          "ticket",
          "toolbox",
          "truck",
          "users",
          "video",
          "waves",
          "wind",
          "wrench");

  /** Names of the colours, each legible in light and dark. */
  public static final List<String> HUES =
      List.of("tide", "plum", "moss", "amber", "rust", "slate", "violet", "pine");

  private Pictures() {}
}
