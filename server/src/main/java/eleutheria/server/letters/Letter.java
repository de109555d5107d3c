package eleutheria.server.letters;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What an email says.
 *
 * @param says paragraphs before the action
 * @param action the one thing to do, its link being the first; null where there is nothing to do
 * @param lists what there is of it, under a heading each
 * @param also paragraphs after it
 * @param why why it is sent to this person, and how to get fewer
 */
public record Letter(
    String subject,
    List<String> says,
    @Nullable Action action,
    List<Listed> lists,
    List<String> also,
    String why) {

  public record Action(String label, String address) {}

  public record Listed(String heading, List<String> items) {}

  static Letter of(String subject, String says, @Nullable Action action, String why) {
    return new Letter(subject, List.of(says), action, List.of(), List.of(), why);
  }

  Letter listing(List<Listed> more) {
    return new Letter(subject, says, action, more, also, why);
  }

  Letter adding(String... more) {
    return new Letter(subject, says, action, lists, List.of(more), why);
  }
}
