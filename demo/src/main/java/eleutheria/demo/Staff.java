package eleutheria.demo;

import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Someone as HR knows them; a row of its weekly file. */
final class Staff {
  static final List<String> COLUMNS =
      List.of(
          "staff_no",
          "given_name",
          "family_name",
          "sign_in",
          "email",
          "phone",
          "unit",
          "site",
          "title",
          "manager_no",
          "employment",
          "vessel",
          "licences",
          "first_day",
          "last_day");

  final String number;
  final LocalDate firstDay;
  String given;
  String family;
  String userName;
  String mail;
  String phone;
  Unit unit;
  String site;
  String title;
  String manager = "";
  String employment;
  String vessel = "";
  String licences = "";
  boolean lead;
  @Nullable LocalDate lastDay;

  Staff(
      String number,
      LocalDate firstDay,
      Names.Part given,
      Names.Part family,
      String userName,
      Unit unit) {
    this.number = number;
    this.firstDay = firstDay;
    this.given = given.written();
    this.family = family.written();
    this.userName = userName;
    this.mail = userName + "@ternsound.example";
    this.phone = "";
    this.unit = unit;
    this.site = unit.sites().getFirst();
    this.title = unit.titles().getFirst();
    this.employment = "employee";
  }

  List<String> row() {
    return List.of(
        number,
        given,
        family,
        userName,
        mail,
        phone,
        unit.name(),
        site,
        title,
        manager,
        employment,
        vessel,
        licences,
        firstDay.toString(),
        lastDay == null ? "" : lastDay.toString());
  }
}
