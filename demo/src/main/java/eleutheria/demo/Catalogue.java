package eleutheria.demo;

import eleutheria.core.facts.Sensitivity;
import java.util.ArrayList;
import java.util.List;

/**
 * The applications of Tern Sound Ferries, their entitlements, and to whom each is given as a matter
 * of course. All of it is invented.
 */
final class Catalogue {
  /**
   * @param owner a sign-in name, or a unit whose first lead owns it
   * @param collections names of the collections that its tile lies in
   */
  record App(
      String name,
      String line,
      String picture,
      String hue,
      Sensitivity sensitivity,
      String owner,
      List<String> collections,
      List<Role> roles) {}

  /**
   * @param to {@code filter …}, {@code group …}, or empty where it is granted on request or by an
   *     administrator
   */
  record Role(String name, String line, Sensitivity sensitivity, boolean requestable, String to) {}

  private static final String EVERYONE = "filter userName pr";

  /** name | line | picture | hue | sensitivity | owner | collections, then a line for each role. */
  private static final String TEXT =
      """
      Crewsheet | Your shifts and swaps | calendar | tide | low | ines.roth | Today aboard
      - Viewer | see the rosters | low | yes | filter not (employment eq "cadet") and not (unit eq "Finance")
      - Planner | plan and publish rosters | medium | yes | filter title ew "lead" or title eq "Master"
      Farebox | Sell and check tickets | ticket | plum | medium | lena.aho | Ticket office
      - Seller | sell at the counter | low | yes | filter unit eq "Ticketing"
      - Pricer | set fares and discounts | medium | yes | filter title eq "Pricing clerk"
      - Admin | set up counters and tills | high | no |
      Refund Bench | Refunds at the counter | receipt | plum | high | ines.roth | Ticket office
      - Asker | ask for a refund | low | yes | filter unit eq "Ticketing"
      - Approver | approve refunds | high | yes | group Refund desk
      Coin House | Ledger and tills | coins | moss | high | Finance | Ticket office, Money
      - Clerk | enter and look up | medium | yes | filter unit eq "Finance"
      - Reconciler | reconcile tills with the ledger | high | yes | filter title eq "Reconciler"
      - Closer | close a month | high | yes |
      Hullcare | Jobs on hull and engine | wrench | rust | medium | Workshop | Workshop floor
      - Viewer | see jobs and drawings | low | yes | filter unit eq "Workshop"
      - Technician | take and finish jobs | medium | yes | filter unit eq "Workshop" and not (title eq "Hull inspector")
      - Signatory | sign a vessel as fit | high | yes | filter title eq "Hull inspector"
      Manifest Desk | Vehicles and cargo | truck | violet | medium | maren.quist | Ticket office, Harbour and traffic
      - Viewer | see what is aboard | low | yes | filter unit eq "Harbour control"
      - Loader | book and load vehicles | medium | yes | filter title eq "Loader"
      Payrow | Payslips, tax | bank | moss | high | People & payroll | My work life
      - Own pay | see one's own payslips | low | no | filter userName pr
      - Runner | run the pay of all | high | yes | filter title eq "Payroll clerk"
      Tidewatch | Tides, wind, sea state | waves | tide | low | Harbour control | Today aboard, Harbour and traffic
      - Reader | read tides and warnings | low | no | filter userName pr
      Berthboard | Who is berthed where | anchor | tide | medium | Harbour control | Harbour and traffic
      - Viewer | see the berths | low | yes | filter unit eq "Harbour control" or unit eq "Terminals"
      - Berth keeper | give and move berths | medium | yes | filter title eq "Traffic controller"
      Safe Passage | Report an incident | first-aid | rust | medium | Safety |
      - Reporter | report an incident | low | no | filter userName pr
      - Investigator | see all and close them | high | yes | filter unit eq "Safety"
      Galley | Order for the kitchens | cooking | amber | low | Catering |
      - Orderer | order for one kitchen | low | yes | filter unit eq "Catering"
      Knotwork | Courses, certificates | graduation | amber | low | People & payroll | My work life
      - Learner | take courses | low | no | filter userName pr
      - Instructor | enter results | medium | yes | filter title eq "Drill instructor"
      Halyard Mail | Mail and calendar | envelope | pine | medium | emre.demir | My work life
      - Mailbox | a mailbox of your own | medium | no | filter userName pr
      Chart Chest | Files you share | folder | pine | medium | emre.demir | My work life
      - User | keep and share files | low | no | filter userName pr
      Help Bell | Help desk, ext. 4400 | lifebuoy | rust | low | emre.demir | My work life
      - Asker | ask for help | low | no | filter userName pr
      - Adviser | answer and look up | medium | yes | group Help desk
      Uniform Store | Kit and sizes | coat | violet | low | Yard & office | My work life
      - Orderer | order one's own kit | low | no | filter userName pr
      Quaynotes | Staff news | newspaper | pine | low | ines.roth | Today aboard
      - Reader | read | low | no | filter userName pr
      - Writer | write for all staff | medium | yes | filter title eq "People adviser"
      Bunker Log | Fuel taken and burnt | gas-pump | slate | medium | Deck crew | On the bridge
      - Writer | enter what was taken | low | yes | filter title eq "Master" or title eq "Mate"
      Watchbook | Log of the watch | notebook | slate | medium | Deck crew | On the bridge
      - Writer | write the log | low | yes | filter unit eq "Deck crew" and not (title eq "Deckhand")
      Muster | Who is aboard | users | slate | medium | Safety | On the bridge
      - Counter | count at a muster | low | yes | group All crews
      Drillbook | Drills held and due | fire | rust | low | Safety | On the bridge
      - Holder | enter drills | low | yes | group Fire wardens
      Harbour Radio Log | Calls by channel | megaphone | tide | low | Harbour control | Harbour and traffic
      - Writer | log a call | low | yes | filter unit eq "Harbour control"
      Buoy Map | Marks and lights | map | tide | low | Harbour control | On the bridge, Harbour and traffic
      - Reader | read the map | low | yes | filter unit eq "Deck crew" or unit eq "Harbour control"
      Quayside Signs | What the boards say | signpost | violet | low | maren.quist | Harbour and traffic
      - Editor | change a board | medium | yes | filter title eq "Terminal lead"
      Lost Luggage | Found and fetched | flag | plum | low | lena.aho | Ticket office
      - Keeper | enter and hand out | low | yes | group Ticket office
      Fare Table | Fares, read only | chart | plum | low | lena.aho |
      - Reader | read fares | low | yes | group Quay and counter
      Paint Store | Paint and coatings | faucet | rust | low | Workshop | Workshop floor
      - Taker | take from the store | low | yes | filter unit eq "Workshop"
      Spare Shelf | Parts in stock | toolbox | rust | low | Workshop | Workshop floor
      - Taker | take a part | low | yes | filter unit eq "Workshop"
      - Buyer | order parts | medium | yes |
      Dry Dock | Yard jobs and slots | hammer | rust | medium | Workshop | Workshop floor
      - Planner | plan the yard | medium | yes | filter title eq "Workshop lead"
      - Contractor | see one's own jobs | low | yes | group Dockyard contractors
      Mess Menu | What is for dinner | cooking | amber | low | Catering | Today aboard
      - Reader | read | low | no | filter userName pr
      Stocktake | Stores of the kitchens | clipboard | amber | low | Catering |
      - Counter | count stock | low | yes | filter unit eq "Catering"
      Ledger Lines | Reports of the ledger | chart | moss | medium | Finance | Money
      - Reader | read reports | medium | yes | filter unit eq "Finance"
      Budget Tide | Budgets by unit | gauge | moss | medium | Finance | Money
      - Planner | plan one's own unit | medium | yes | group All leads
      Expense Slip | Claims and receipts | receipt | moss | low | Finance | My work life
      - Claimant | claim | low | no | filter userName pr
      - Payer | pay claims out | high | yes | filter title eq "Finance lead"
      Travel Slip | Journeys on duty | boat | moss | low | Finance |
      - Traveller | book | low | yes | filter title ew "lead" or unit eq "Safety"
      Joiner Desk | First days, kit, keys | handshake | violet | medium | People & payroll | Money
      - Adviser | see joiners through | medium | yes | filter unit eq "People & payroll"
      Gull Post | Chat | chat | pine | low | emre.demir | Today aboard
      - Writer | write | low | no | filter userName pr
      Print Room | Printers and posters | printer | slate | low | emre.demir |
      - User | print | low | yes | filter unit eq "Yard & office" or unit eq "Finance"
      Room Book | Rooms ashore | clock | slate | low | Yard & office | First weeks aboard
      - Booker | book a room | low | yes | filter unit eq "Yard & office"
      Policy Shelf | Rules in force | books | slate | low | People & payroll | First weeks aboard
      - Reader | read | low | no | filter userName pr
      Shoreline Calls | Telephones and numbers | phone | slate | low | emre.demir |
      - User | call and be called | low | yes | filter unit eq "Ticketing" or unit eq "Harbour control"
      """;

  static final List<App> APPS = read();

  private Catalogue() {}

  private static List<App> read() {
    List<App> apps = new ArrayList<>();
    for (String line : TEXT.lines().toList()) {
      String[] parts = line.replaceFirst("^- ", "").split("\\|", -1);
      for (int i = 0; i < parts.length; i++) {
        parts[i] = parts[i].strip();
      }
      if (line.startsWith("- ")) {
        apps.getLast()
            .roles()
            .add(
                new Role(
                    parts[0],
                    parts[1],
                    Sensitivity.of(parts[2]),
                    parts[3].equals("yes"),
                    parts[4]));
      } else {
        apps.add(
            new App(
                parts[0],
                parts[1],
                parts[2],
                parts[3],
                Sensitivity.of(parts[4]),
                parts[5],
                parts[6].isEmpty() ? List.of() : List.of(parts[6].split(", ")),
                new ArrayList<>()));
      }
    }
    return List.copyOf(apps);
  }

  /** Whether a role is everyone's, from the first day. */
  static boolean everyones(Role role) {
    return role.to().equals(EVERYONE);
  }
}
