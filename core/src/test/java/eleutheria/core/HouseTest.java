package eleutheria.core;

import static com.tngtech.archunit.base.DescribedPredicate.describe;
import static com.tngtech.archunit.base.DescribedPredicate.not;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.belongToAnyOf;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAnyPackage;
import static com.tngtech.archunit.lang.conditions.ArchConditions.be;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.net.URI;
import java.net.URISyntaxException;
import org.jspecify.annotations.NullMarked;

@AnalyzeClasses(packages = "eleutheria.core", importOptions = ImportOption.DoNotIncludeTests.class)
class HouseTest {
  @ArchTest
  static final ArchRule knowsNothingOfTheWorldOutside =
      noClasses()
          .should()
          .dependOnClassesThat(
              resideInAnyPackage(
                      "org.springframework..",
                      "org.jooq..",
                      "java.sql..",
                      "java.net..",
                      "jakarta..")
                  // The syntax of addresses (RFC 3986), which opens nothing.
                  .and(not(belongToAnyOf(URI.class, URISyntaxException.class))))
          .because("core is the computation alone");

  @ArchTest
  static final ArchRule hasNoClockOfItsOwn =
      noClasses()
          .should()
          .callMethod(java.time.Instant.class, "now")
          .orShould()
          .callMethod(System.class, "currentTimeMillis")
          .because("time is a parameter everywhere");

  @ArchTest
  static final ArchRule capabilitiesDoNotDependInACircle =
      slices().matching("eleutheria.core.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule factsStandAtTheGround =
      classes()
          .that()
          .resideInAPackage("..facts..")
          .should()
          .onlyDependOnClassesThat()
          .resideInAnyPackage("eleutheria.core.facts..", "java..", "org.jspecify..");

  /** By its package or by itself; and so the compiler looks there for what may be null. */
  @ArchTest
  static final ArchRule everythingSaysWhereNullMayStand =
      classes()
          .that()
          .areTopLevelClasses()
          .and()
          .resideOutsideOfPackage("..tables..")
          .should(
              be(
                  describe(
                      "marked",
                      one ->
                          one.isAnnotatedWith(NullMarked.class)
                              || one.getPackage().isAnnotatedWith(NullMarked.class))));
}
