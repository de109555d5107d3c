package eleutheria.demo;

import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.random.RandomGenerator;

/**
 * The company as it changes from week to week: people leave and are replaced, move, are promoted,
 * change their names; summer staff come in May and go in September. What it says each week is HR's
 * file of that week.
 */
final class Company {
  /** People whom the demo's stories are about. */
  record Cast(
      String userName, String given, String family, String unit, String title, String site) {}

  static final List<Cast> CAST =
      List.of(
          new Cast(
              "ines.roth",
              "Ines",
              "Roth",
              "Yard & office",
              "Access governance administrator",
              "Harrow Quay"),
          new Cast(
              "petra.lindholm",
              "Petra",
              "Lindholm",
              "People & payroll",
              "People adviser",
              "Harrow Quay"),
          new Cast("lena.aho", "Lena", "Aho", "Ticketing", "Ticketing lead", "Harrow Quay"),
          new Cast("oda.brekke", "Oda", "Brekke", "Ticketing", "Ticket clerk", "Harrow Quay"),
          new Cast("mina.sato", "Mina", "Sato", "Ticketing", "Ticket clerk", "Skarholm"),
          new Cast("jonas.weir", "Jonas", "Weir", "Finance", "Controller", "Harrow Quay"),
          new Cast("maren.quist", "Maren", "Quist", "Terminals", "Terminal lead", "Skarholm"),
          new Cast(
              "emre.demir", "Emre", "Demir", "Yard & office", "Help desk adviser", "Harrow Quay"),
          new Cast("nils.sand", "Nils", "Sand", "Yard & office", "Developer", "Lowisle"),
          new Cast("nils.sand.crew", "Nils", "Sand", "Deck crew", "Deckhand", "Lowisle"),
          new Cast("tomas.ilves", "Tomas", "Ilves", "Workshop", "Hull inspector", "Skarholm"));

  private final RandomGenerator random;
  private final Names names;
  private final double scale;
  private final List<Staff> staff = new ArrayList<>();
  private final Map<String, Staff> byUserName = new HashMap<>();
  private int nextNumber = 10_001;

  Company(RandomGenerator random, int people, LocalDate begins) {
    this.random = random;
    this.names = new Names(random);
    this.scale = people / 1214.0;
    for (Cast cast : CAST) {
      hireCast(cast, begins);
    }
    for (Unit unit : Unit.ALL) {
      while (count(unit) < size(unit)) {
        hire(unit, begins.minusDays(random.nextInt(20 * 365)));
      }
    }
    for (Unit unit : Unit.ALL) {
      appointLeads(unit);
    }
    staff.forEach(this::assignManager);
  }

  List<Staff> staff() {
    return staff;
  }

  Staff cast(String userName) {
    Staff found = byUserName.get(userName);
    if (found == null) {
      throw new IllegalArgumentException("nobody is called " + userName);
    }
    return found;
  }

  private int size(Unit unit) {
    return Math.max(1, (int) Math.round(unit.people() * scale));
  }

  private int count(Unit unit) {
    return (int)
        staff.stream()
            .filter(s -> s.unit == unit && !s.employment.equals("seasonal") && s.lastDay == null)
            .count();
  }

  private static Unit unit(String name) {
    return Unit.ALL.stream().filter(u -> u.name().equals(name)).findFirst().orElseThrow();
  }

  private void hireCast(Cast cast, LocalDate begins) {
    Names.Part given = Names.Part.of(cast.given());
    Names.Part family = Names.Part.of(cast.family());
    Staff person =
        new Staff(
            number(), begins.minusDays(700), given, family, cast.userName(), unit(cast.unit()));
    names.userName(given, family);
    person.title = cast.title();
    person.site = cast.site();
    person.phone = phone();
    // Two accounts of one man: on the bridge and in the office, with one mail address.
    person.mail = cast.userName().replace(".crew", "") + "@ternsound.example";
    if (cast.unit().equals("Deck crew")) {
      person.vessel = Unit.VESSELS.getFirst();
    }
    person.lead = cast.title().endsWith("lead");
    add(person);
  }

  private void add(Staff person) {
    staff.add(person);
    byUserName.put(person.userName, person);
  }

  private String number() {
    return "TS-" + nextNumber++;
  }

  private String phone() {
    // Numbers that are kept for fiction and belong to nobody.
    boolean mobile = random.nextInt(70) < 35;
    int number = random.nextInt(100) * 100 + random.nextInt(100) + random.nextInt(100);
    return (mobile ? "+44 7700 900%03d" : "+44 1632 960%03d").formatted(number % 1_000);
  }

  private Staff hire(Unit unit, LocalDate firstDay) {
    int language = names.language();
    Names.Part given = names.given(language);
    Names.Part family = names.family(random.nextInt(10) == 0 ? names.language() : language);
    Staff person =
        new Staff(number(), firstDay, given, family, names.userName(given, family), unit);
    int site = Math.min(random.nextInt(unit.sites().size() + 2), unit.sites().size() + 1);
    person.site = unit.sites().get(site >= unit.sites().size() ? 0 : site);
    person.title = unit.titles().get(random.nextInt(unit.titles().size()));
    person.phone = phone();
    if (unit.name().equals("Deck crew")) {
      person.vessel = Unit.VESSELS.get(random.nextInt(Unit.VESSELS.size()));
      person.licences = licences();
      person.employment = random.nextInt(12) == 0 ? "cadet" : "employee";
    } else if (unit.name().equals("Yard & office") && random.nextInt(6) == 0) {
      person.employment = "contractor";
      person.title = "Dockyard fitter";
      person.site = "Skarholm";
    }
    add(person);
    return person;
  }

  private String licences() {
    List<String> all = List.of("Fire aboard", "Lifeboat", "Radio", "Ro-ro deck", "First aid");
    List<String> held = new ArrayList<>();
    for (String licence : all) {
      if (random.nextInt(3) == 0) {
        held.add(licence);
      }
    }
    return String.join("|", held);
  }

  private void appointLeads(Unit unit) {
    for (String site : unit.sites()) {
      List<Staff> here = staff.stream().filter(s -> s.unit == unit && s.site.equals(site)).toList();
      int leads = Math.max(1, here.size() / 14);
      for (Staff person : here) {
        if (leads == 0) {
          break;
        }
        if (CAST.stream().anyMatch(c -> c.userName().equals(person.userName)) && !person.lead) {
          continue;
        }
        person.lead = true;
        person.title = unit.lead();
        person.employment = "employee";
        leads--;
      }
    }
  }

  /** A lead of the same unit and site, else of the unit; leads are led by the first of the unit. */
  private void assignManager(Staff person) {
    List<Staff> leads =
        staff.stream().filter(s -> s.unit == person.unit && s.lead && s.lastDay == null).toList();
    if (leads.isEmpty()) {
      person.manager = "";
      return;
    }
    Staff head = leads.getFirst();
    if (person == head) {
      Staff boss = cast("ines.roth");
      person.manager =
          person.unit == boss.unit || boss.number.equals(person.manager) ? "" : boss.number;
      return;
    }
    if (person.lead) {
      person.manager = head.number;
      return;
    }
    List<Staff> near = leads.stream().filter(s -> s.site.equals(person.site)).toList();
    List<Staff> from = near.isEmpty() ? leads : near;
    person.manager = from.get(Math.floorMod(person.number.hashCode(), from.size())).number;
  }

  /** Every so many leavers are heard of late. */
  private static final int HEARD_LATE = 9;

  private int leavers;

  /** Lets a week pass; its file is what {@link #staff} says afterwards. */
  void week(LocalDate monday) {
    staff.removeIf(s -> s.lastDay != null && s.lastDay.isBefore(monday.minusWeeks(4)));
    for (Staff person : List.copyOf(staff)) {
      if (person.lastDay != null || cast(person)) {
        continue;
      }
      double draw = random.nextDouble();
      if (draw < 0.0024) {
        LocalDate last = monday.plusDays(7 + random.nextInt(14));
        if (++leavers % HEARD_LATE == 0) {
          // Gone since last Thursday, and the register hears of it only now.
          leave(person, monday.minusDays(4), monday);
        } else {
          leave(person, last, last.plusDays(1));
        }
      } else if (draw < 0.0041) {
        move(person);
      } else if (draw < 0.0047) {
        marry(person);
      }
    }
    // No week is without any change.
    staff.get(random.nextInt(staff.size())).phone = phone();
    if (monday.getMonth() == Month.MAY && monday.getDayOfMonth() <= 7) {
      summer(monday);
    }
    Set<String> there = new HashSet<>();
    staff.stream().filter(s -> s.lastDay == null).forEach(s -> there.add(s.number));
    staff.forEach(
        s -> {
          if (!there.contains(s.manager)) {
            assignManager(s);
          }
        });
  }

  private static boolean cast(Staff person) {
    return CAST.stream().anyMatch(c -> c.userName().equals(person.userName));
  }

  private void leave(Staff person, LocalDate lastDay, LocalDate nextDay) {
    person.lastDay = lastDay;
    if (!person.employment.equals("seasonal")) {
      Staff next = hire(person.unit, nextDay);
      next.lead = person.lead;
      if (next.lead) {
        next.title = person.unit.lead();
        next.employment = "employee";
      }
      next.site = person.site;
      assignManager(next);
    }
  }

  /** Two change places, so that units keep their size. */
  private void move(Staff person) {
    if (person.lead || !person.employment.equals("employee")) {
      return;
    }
    List<Staff> others =
        staff.stream()
            .filter(
                s ->
                    s.unit != person.unit
                        && !s.lead
                        && s.lastDay == null
                        && s.employment.equals("employee")
                        && !cast(s))
            .toList();
    Staff other = others.get(random.nextInt(others.size()));
    Unit unit = person.unit;
    String site = person.site;
    String title = person.title;
    String vessel = person.vessel;
    place(person, other.unit, other.site, other.title, other.vessel);
    place(other, unit, site, title, vessel);
  }

  private void place(Staff person, Unit unit, String site, String title, String vessel) {
    person.unit = unit;
    person.site = site;
    person.title = title;
    person.vessel = vessel;
    assignManager(person);
  }

  private void marry(Staff person) {
    person.family = names.family(names.language()).written();
  }

  private void summer(LocalDate monday) {
    for (Unit unit : Unit.ALL) {
      for (int i = 0; i < unit.seasonal() * scale; i++) {
        Staff person = hire(unit, monday.plusDays(14));
        person.employment = "seasonal";
        person.title = unit.titles().getFirst();
        person.lastDay = LocalDate.of(monday.getYear(), Month.SEPTEMBER, 30);
        assignManager(person);
      }
    }
  }

  /** Takes someone out of the file without a word, as HR sometimes does; another begins at once. */
  Staff vanish(LocalDate monday) {
    List<Staff> others =
        staff.stream().filter(s -> !cast(s) && !s.lead && s.lastDay == null).toList();
    Staff gone = others.get(random.nextInt(others.size()));
    staff.remove(gone);
    Staff next = hire(gone.unit, monday);
    next.site = gone.site;
    assignManager(next);
    return gone;
  }

  Staff join(String unit, LocalDate firstDay) {
    Staff person = hire(unit(unit), firstDay);
    assignManager(person);
    return person;
  }

  /** The whole of HR's file. */
  List<List<String>> rows() {
    return staff.stream().map(Staff::row).toList();
  }
}
