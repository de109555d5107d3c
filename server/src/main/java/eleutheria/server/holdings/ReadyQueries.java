package eleutheria.server.holdings;

import java.util.List;

/** The queries that everybody finds who may look at holdings. */
final class ReadyQueries {
  private ReadyQueries() {}

  record Ready(String id, String name, String why, SpecForm spec) {}

  private static AskedForm only(String mark) {
    return new AskedForm(null, null, null, null, List.of(mark), null, null, null, null, null, null);
  }

  static final List<Ready> ALL =
      List.of(
          new Ready(
              "high",
              "Who holds high-sensitivity access",
              "What moves money, people’s data or safety, with its grounds and its last use.",
              new SpecForm(
                  new AskedForm(
                      null, null, List.of("high"), null, null, null, null, null, null, null, null),
                  null,
                  null,
                  null,
                  null,
                  List.of(
                      "person", "unit", "app", "role", "grounds", "givenBy", "since", "lastUsed"))),
          new Ready(
              "both",
              "Who could do both",
              "People who hold what a separation rule keeps apart, and until when it is accepted.",
              new SpecForm(only("both"), null, null, null, null, null)),
          new Ready(
              "ends",
              "What ends by the end of next month",
              "Holdings whose last ground ends by itself.",
              new SpecForm(
                  AskedForm.ALL,
                  null,
                  null,
                  "next-month",
                  null,
                  List.of("person", "unit", "app", "role", "grounds", "until", "lastUsed"))),
          new Ready(
              "leavers",
              "Leavers who still held something",
              "What people held after their stated last day, because it was reported late; in the last quarter.",
              new SpecForm(AskedForm.ALL, null, null, null, "last-quarter", null)),
          new Ready(
              "unused",
              "What nobody uses, by what its seats cost",
              "Holdings unused for 90 days, costliest first.",
              new SpecForm(
                  only("unused"),
                  null,
                  null,
                  null,
                  null,
                  List.of(
                      "app", "role", "cost", "person", "unit", "grounds", "since", "lastUsed"))),
          new Ready(
              "changes",
              "What changed last quarter",
              "Who gained and who lost something, from the first day of the quarter to the last.",
              new SpecForm(AskedForm.ALL, null, "last-quarter", null, null, null)));
}
