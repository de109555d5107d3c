package eleutheria.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** HR's files of this week, with good lines and bad ones, to be imported by an administrator. */
final class ThisWeek {
  private ThisWeek() {}

  static void write(Company company, LocalDate monday, Path folder) throws IOException {
    Files.createDirectories(folder);
    company.week(monday);
    Staff gone = company.vanish(monday);
    Staff alsoGone = company.vanish(monday);
    company.join("Ticketing", monday.plusDays(7));
    company.join("Catering", monday.plusDays(7));
    company.join("Workshop", monday.plusDays(14));
    List<List<String>> rows = new ArrayList<>(company.rows());
    Files.write(folder.resolve("staff-good.csv"), Csv.write(Staff.COLUMNS, rows));
    rows.addAll(bad(company, monday));
    Files.write(folder.resolve("staff-this-week.csv"), Csv.write(Staff.COLUMNS, rows));
    Files.write(
        folder.resolve("crew-lists.csv"),
        Csv.write(List.of("group", "group name", "member", "member group"), crews(company)));
    Files.writeString(
        folder.resolve("README.txt"),
        """
        HR's delivery of this week, to be dropped under People, Import.

        staff-this-week.csv   all of "Staff register": joiners, changes, leavers, and bad lines
        staff-good.csv        the same without the bad lines
        crew-lists.csv        rosters as mirrored groups, by staff number

        Not in the file any more, so that they end: %s and %s.
        """
            .formatted(gone.number, alsoGone.number));
  }

  private static List<List<String>> bad(Company company, LocalDate monday) {
    List<List<String>> rows = new ArrayList<>();
    String day = monday.plusDays(7).toString();
    rows.add(row("TS-90001", "Hanna", "Ljung", "hanna.ljung", "TS-00000", day, ""));
    rows.add(row("TS-90002", "Otto", "Berg", "otto.berg", "TS-90003", day, ""));
    rows.add(row("TS-90003", "Elsa", "Berg", "elsa.berg", "TS-90002", day, ""));
    rows.add(row("TS-90004", "Pål", "Vik", "pal.vik", "", "31.11.2026", ""));
    rows.add(row("TS-90005", "=1+1", "Formel", "formel", "", day, ""));
    rows.add(row("TS-90006", "Ida", "Roth", "ines.roth", "", day, ""));
    rows.add(row("TS-90007", "Tora", "Lien", "tora.lien", "", day, ""));
    rows.add(row("TS-90007", "Tora", "Lien", "tora.lien.2", "", day, ""));
    rows.add(row("", "Nobody", "Numbered", "nobody.numbered", "", day, ""));
    rows.add(row("TS-90009", "Kai", "Moe", "kai.moe", "", day, monday.toString()));
    return rows;
  }

  private static List<String> row(
      String number,
      String given,
      String family,
      String userName,
      String manager,
      String first,
      String last) {
    return List.of(
        number,
        given,
        family,
        userName,
        userName + "@ternsound.example",
        "",
        "Terminals",
        "Gull Point",
        "Terminal hand",
        manager,
        "employee",
        "",
        "",
        first,
        last);
  }

  private static List<List<String>> crews(Company company) {
    List<List<String>> rows = new ArrayList<>();
    for (String watch : List.of("A", "B", "C")) {
      company.staff().stream()
          .filter(s -> s.unit.name().equals("Harbour control") && s.lastDay == null)
          .filter(s -> Math.floorMod(s.number.hashCode(), 3) == watch.charAt(0) - 'A')
          .forEach(s -> rows.add(List.of("W-" + watch, "Harbour watch " + watch, s.number, "")));
    }
    for (String watch : List.of("A", "B", "C")) {
      rows.add(List.of("W-ALL", "All harbour watches", "", "W-" + watch));
    }
    rows.add(List.of("W-A", "Harbour watch A", "TS-00000", ""));
    return rows;
  }
}
