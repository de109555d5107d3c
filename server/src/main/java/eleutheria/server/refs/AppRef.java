package eleutheria.server.refs;

import eleutheria.core.apps.Application;

/** An application where it is named. */
public record AppRef(String id, String name, String picture, String hue, String state) {
  public static AppRef of(Application app) {
    return new AppRef(
        app.id().value().toString(),
        app.name(),
        app.profile().picture(),
        app.profile().hue(),
        app.state().word());
  }
}
