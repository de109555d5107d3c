package eleutheria.demo;

import java.util.List;

/**
 * A unit of the company.
 *
 * @param people how many work there all year round, of 1,214
 * @param sites where, the first most often
 * @param seasonal how many more in summer
 */
record Unit(
    String name, int people, List<String> sites, String lead, List<String> titles, int seasonal) {

  static final List<Unit> ALL =
      List.of(
          new Unit(
              "Deck crew",
              412,
              List.of("Harrow Quay", "Skarholm", "Gull Point", "Lowisle"),
              "Master",
              List.of("Deckhand", "Able seafarer", "Mate", "Second mate", "Boatswain"),
              60),
          new Unit(
              "Ticketing",
              28,
              List.of("Harrow Quay", "Skarholm"),
              "Ticketing lead",
              List.of("Ticket clerk", "Ticket clerk", "Pricing clerk"),
              24),
          new Unit(
              "Terminals",
              164,
              List.of("Harrow Quay", "Skarholm", "Gull Point", "Lowisle"),
              "Terminal lead",
              List.of("Terminal hand", "Loader", "Marshal"),
              36),
          new Unit(
              "Workshop",
              88,
              List.of("Skarholm", "Harrow Quay"),
              "Workshop lead",
              List.of("Fitter", "Electrician", "Welder", "Hull inspector"),
              0),
          new Unit(
              "Harbour control",
              36,
              List.of("Harrow Quay", "Gull Point"),
              "Watch lead",
              List.of("Watch officer", "Traffic controller"),
              0),
          new Unit(
              "Finance",
              31,
              List.of("Harrow Quay"),
              "Finance lead",
              List.of("Ledger clerk", "Reconciler", "Controller"),
              0),
          new Unit(
              "Catering",
              140,
              List.of("Harrow Quay", "Skarholm", "Gull Point"),
              "Galley lead",
              List.of("Cook", "Galley hand", "Steward aboard"),
              40),
          new Unit(
              "People & payroll",
              17,
              List.of("Harrow Quay"),
              "People lead",
              List.of("People adviser", "Payroll clerk"),
              0),
          new Unit(
              "Safety",
              12,
              List.of("Harrow Quay", "Gull Point"),
              "Safety lead",
              List.of("Safety officer", "Drill instructor"),
              0),
          new Unit(
              "Yard & office",
              286,
              List.of("Harrow Quay", "Skarholm", "Lowisle"),
              "Office lead",
              List.of("Clerk", "Planner", "Yard hand", "Storekeeper", "Developer", "Analyst"),
              0));

  static final List<String> VESSELS =
      List.of(
          "Arctic Tern",
          "Sandwich Tern",
          "Roseate",
          "Skimmer",
          "Noddy",
          "Little Tern",
          "Whiskered",
          "Sooty");
}
