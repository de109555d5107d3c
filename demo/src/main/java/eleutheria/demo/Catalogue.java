package eleutheria.demo;

import eleutheria.core.facts.Weight;
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
      Weight weight,
      String owner,
      List<String> collections,
      List<Role> roles) {}

  /**
   * @param to {@code filter …}, {@code group …}, or empty where it is given on request or by hand
   */
  record Role(String name, String line, Weight weight, boolean requestable, String to) {}

  private static final String EVERYONE = "filter userName pr";

  /** name | line | picture | hue | weight | owner | collections, then a line for each role. */
  private static final String TEXT =
      """
      Crewsheet | Your shifts and swaps | calendar | tide | light | ines.roth | Today aboard
      - Viewer | see the rosters | light | yes | filter not (employment eq "cadet") and not (unit eq "Finance")
      - Planner | plan and publish rosters | middling | yes | filter title ew "lead" or title eq "Master"
      Farebox | Sell and check tickets | ticket | plum | middling | lena.aho | Ticket office
      - Seller | sell at the counter | light | yes | filter unit eq "Ticketing"
      - Pricer | set fares and discounts | middling | yes | filter title eq "Pricing clerk"
      - Admin | set up counters and tills | heavy | no |
      Refund Bench | Refunds at the counter | receipt | plum | heavy | ines.roth | Ticket office
      - Asker | ask for a refund | light | yes | filter unit eq "Ticketing"
      - Approver | approve refunds | heavy | yes | group Refund desk
      Tally House | Ledger and tills | coins | moss | heavy | Finance | Ticket office, Money
      - Clerk | enter and look up | middling | yes | filter unit eq "Finance"
      - Reconciler | reconcile tills with the ledger | heavy | yes | filter title eq "Reconciler"
      - Closer | close a month | heavy | yes |
      Hullcare | Jobs on hull and engine | wrench | rust | middling | Workshop | Workshop floor
      - Viewer | see jobs and drawings | light | yes | filter unit eq "Workshop"
      - Technician | take and finish jobs | middling | yes | filter unit eq "Workshop" and not (title eq "Hull inspector")
      - Signatory | sign a vessel as fit | heavy | yes | filter title eq "Hull inspector"
      Manifest Desk | Vehicles and cargo | truck | violet | middling | maren.quist | Ticket office, Harbour and traffic
      - Viewer | see what is aboard | light | yes | filter unit eq "Harbour control"
      - Loader | book and load vehicles | middling | yes | filter title eq "Loader"
      Payrow | Payslips, tax | bank | moss | heavy | People & payroll | My work life
      - Own pay | see one's own payslips | light | no | filter userName pr
      - Runner | run the pay of all | heavy | yes | filter title eq "Payroll clerk"
      Tidewatch | Tides, wind, sea state | waves | tide | light | Harbour control | Today aboard, Harbour and traffic
      - Reader | read tides and warnings | light | no | filter userName pr
      Berthboard | Who lies where | anchor | tide | middling | Harbour control | Harbour and traffic
      - Viewer | see the berths | light | yes | filter unit eq "Harbour control" or unit eq "Terminals"
      - Berth keeper | give and move berths | middling | yes | filter title eq "Traffic controller"
      Safe Passage | Report an incident | first-aid | rust | middling | Safety |
      - Reporter | report an incident | light | no | filter userName pr
      - Investigator | see all and close them | heavy | yes | filter unit eq "Safety"
      Galley | Order for the kitchens | cooking | amber | light | Catering |
      - Orderer | order for one kitchen | light | yes | filter unit eq "Catering"
      Ropes | Courses, certificates | graduation | amber | light | People & payroll | My work life
      - Learner | take courses | light | no | filter userName pr
      - Instructor | enter results | middling | yes | filter title eq "Drill instructor"
      Halyard Mail | Mail and calendar | envelope | pine | middling | emre.demir | My work life
      - Mailbox | an own mailbox | middling | no | filter userName pr
      Locker | Files you share | folder | pine | middling | emre.demir | My work life
      - User | keep and share files | light | no | filter userName pr
      Lifebuoy | Help desk, ext. 4400 | lifebuoy | rust | light | emre.demir | My work life
      - Asker | ask for help | light | no | filter userName pr
      - Adviser | answer and look up | middling | yes | group Help desk
      Uniform Store | Kit and sizes | coat | violet | light | Yard & office | My work life
      - Orderer | order one's own kit | light | no | filter userName pr
      Gangway | Staff news | newspaper | pine | light | ines.roth | Today aboard
      - Reader | read | light | no | filter userName pr
      - Writer | write for all staff | middling | yes | filter title eq "People adviser"
      Bunker Log | Fuel taken and burnt | gas-pump | slate | middling | Deck crew | On the bridge
      - Writer | enter what was taken | light | yes | filter title eq "Master" or title eq "Mate"
      Watchbook | Log of the watch | notebook | slate | middling | Deck crew | On the bridge
      - Writer | write the log | light | yes | filter unit eq "Deck crew" and not (title eq "Deckhand")
      Muster | Who is aboard | users | slate | middling | Safety | On the bridge
      - Counter | count at a muster | light | yes | group All crews
      Drillbook | Drills held and due | fire | rust | light | Safety | On the bridge
      - Holder | enter drills | light | yes | group Fire wardens
      Harbour Radio Log | Calls by channel | megaphone | tide | light | Harbour control | Harbour and traffic
      - Writer | log a call | light | yes | filter unit eq "Harbour control"
      Buoy Map | Marks and lights | map | tide | light | Harbour control | On the bridge, Harbour and traffic
      - Reader | read the map | light | yes | filter unit eq "Deck crew" or unit eq "Harbour control"
      Quayside Signs | What the boards say | signpost | violet | light | maren.quist | Harbour and traffic
      - Editor | change a board | middling | yes | filter title eq "Terminal lead"
      Lost Luggage | Found and fetched | flag | plum | light | lena.aho | Ticket office
      - Keeper | enter and hand out | light | yes | group Ticket office
      Fare Table | Fares, read only | chart | plum | light | lena.aho |
      - Reader | read fares | light | yes | group Quay and counter
      Paint Store | Paint and coatings | faucet | rust | light | Workshop | Workshop floor
      - Taker | take from the store | light | yes | filter unit eq "Workshop"
      Spare Shelf | Parts in stock | toolbox | rust | light | Workshop | Workshop floor
      - Taker | take a part | light | yes | filter unit eq "Workshop"
      - Buyer | order parts | middling | yes |
      Dry Dock | Yard jobs and slots | hammer | rust | middling | Workshop | Workshop floor
      - Planner | plan the yard | middling | yes | filter title eq "Workshop lead"
      - Contractor | see one's own jobs | light | yes | group Dockyard contractors
      Mess Menu | What is for dinner | cooking | amber | light | Catering | Today aboard
      - Reader | read | light | no | filter userName pr
      Stocktake | Stores of the kitchens | clipboard | amber | light | Catering |
      - Counter | count stock | light | yes | filter unit eq "Catering"
      Ledger Lines | Reports of the ledger | chart | moss | middling | Finance | Money
      - Reader | read reports | middling | yes | filter unit eq "Finance"
      Budget Tide | Budgets by unit | gauge | moss | middling | Finance | Money
      - Planner | plan one's own unit | middling | yes | group All leads
      Expense Slip | Claims and receipts | receipt | moss | light | Finance | My work life
      - Claimant | claim | light | no | filter userName pr
      - Payer | pay claims out | heavy | yes | filter title eq "Finance lead"
      Travel Slip | Journeys on duty | boat | moss | light | Finance |
      - Traveller | book | light | yes | filter title ew "lead" or unit eq "Safety"
      Joiner Desk | First days, kit, keys | handshake | violet | middling | People & payroll | Money
      - Adviser | see joiners through | middling | yes | filter unit eq "People & payroll"
      Gull Post | Chat | chat | pine | light | emre.demir | Today aboard
      - Writer | write | light | no | filter userName pr
      Print Room | Printers and posters | printer | slate | light | emre.demir |
      - User | print | light | yes | filter unit eq "Yard & office" or unit eq "Finance"
      Room Book | Rooms ashore | clock | slate | light | Yard & office | First weeks aboard
      - Booker | book a room | light | yes | filter unit eq "Yard & office"
      Policy Shelf | Rules in force | books | slate | light | People & payroll | First weeks aboard
      - Reader | read | light | no | filter userName pr
      Shoreline Calls | Telephones and numbers | phone | slate | light | emre.demir |
      - User | call and be called | light | yes | filter unit eq "Ticketing" or unit eq "Harbour control"
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
                    parts[0], parts[1], Weight.of(parts[2]), parts[3].equals("yes"), parts[4]));
      } else {
        apps.add(
            new App(
                parts[0],
                parts[1],
                parts[2],
                parts[3],
                Weight.of(parts[4]),
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
