package eleutheria.demo;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CompanyTest {
  private static final LocalDate BEGIN = LocalDate.of(2025, 1, 6);

  private static Company after(int people, int weeks) {
    Company company = new Company(new SplittableRandom(5), people, BEGIN);
    for (int week = 1; week <= weeks; week++) {
      company.week(BEGIN.plusWeeks(week));
    }
    return company;
  }

  @Test
  void unitsKeepTheirSizeWhoeverComesAndGoes() {
    Company company = after(1214, 60);
    LocalDate day = BEGIN.plusWeeks(60);
    for (Unit unit : Unit.ALL) {
      long there =
          company.staff().stream()
              .filter(s -> s.unit == unit && !s.employment.equals("seasonal"))
              .filter(s -> !s.firstDay.isAfter(day))
              .filter(s -> s.lastDay == null || !s.lastDay.isBefore(day))
              .count();
      assertThat(there).as(unit.name()).isEqualTo(unit.people());
    }
  }

  @Test
  void managersNeverLeadInACircleAndNumbersAndNamesAreUnique() {
    Company company = after(1214, 60);
    Map<String, String> managerOf = new HashMap<>();
    company.staff().forEach(s -> managerOf.put(s.number, s.manager));
    assertThat(managerOf).hasSameSizeAs(company.staff());
    assertThat(company.staff().stream().map(s -> s.userName).distinct().count())
        .isEqualTo(company.staff().size());
    for (String number : managerOf.keySet()) {
      Set<String> seen = new HashSet<>();
      String at = number;
      while (at != null && !at.isEmpty()) {
        assertThat(seen.add(at)).as("circle at " + at).isTrue();
        at = managerOf.get(at);
      }
    }
  }

  @Test
  void oneSeedGivesOneCompany() {
    List<List<String>> one = after(1214, 10).rows();
    assertThat(after(1214, 10).rows()).isEqualTo(one);
  }

  @ParameterizedTest
  @ValueSource(ints = {300, 10_000})
  void otherSizesAreMadeTheSameWay(int people) {
    Company company = after(people, 2);
    long there =
        company.staff().stream()
            .filter(s -> !s.employment.equals("seasonal") && s.lastDay == null)
            .count();
    assertThat((double) there).isBetween(people * 0.98, people * 1.02);
  }
}
