package eleutheria.server;

import static com.tngtech.archunit.base.DescribedPredicate.describe;
import static com.tngtech.archunit.base.DescribedPredicate.not;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAnyPackage;
import static com.tngtech.archunit.lang.conditions.ArchConditions.be;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.methods;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import eleutheria.server.web.Needs;
import org.jooq.DSLContext;
import org.jspecify.annotations.NullMarked;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;

@AnalyzeClasses(
    packages = "eleutheria.server",
    importOptions = ImportOption.DoNotIncludeTests.class)
class HouseTest {
  @ArchTest
  static final ArchRule everyEndpointSaysWhoMayCallIt =
      methods()
          .that()
          .areAnnotatedWith(GetMapping.class)
          .or()
          .areAnnotatedWith(PostMapping.class)
          .or()
          .areAnnotatedWith(PutMapping.class)
          .or()
          .areAnnotatedWith(DeleteMapping.class)
          .should()
          .beAnnotatedWith(Needs.class);

  @ArchTest
  static final ArchRule noControllerReachesForFactsOrEntries =
      noClasses()
          .that()
          .haveSimpleNameEndingWith("Controller")
          .should()
          .dependOnClassesThat()
          .haveFullyQualifiedName("eleutheria.server.state.FactStore")
          .orShould()
          .dependOnClassesThat()
          .haveFullyQualifiedName("eleutheria.server.state.LedgerStore");

  @ArchTest
  static final ArchRule noPackagesLeanOnEachOther =
      slices().matching("eleutheria.server.(*)..").should().beFreeOfCycles();

  private static final String[] COMMON = {
    "..server.converters..",
    "..server.settings..",
    "..server.problems..",
    "..server.web..",
    "..server.state..",
    "..server.writing..",
    "..server.clock..",
    "..server.refs..",
    "..server.reach.."
  };

  /** What all capabilities stand on knows none of them. */
  @ArchTest
  static final ArchRule nothingLeansUpwards =
      noClasses()
          .that()
          .resideInAnyPackage(COMMON)
          .should()
          .dependOnClassesThat(
              resideInAPackage("eleutheria.server..")
                  .and(
                      not(resideInAnyPackage(COMMON))
                          .and(not(resideInAPackage("..server.tables..")))));

  @ArchTest
  static final ArchRule nothingLeansOnTheGate =
      classes()
          .that()
          .resideInAPackage("..server.gate..")
          .should()
          .onlyBeAccessed()
          .byAnyPackage("..server.gate..");

  /** Controllers read forms and tell answers; rows are for stores. */
  @ArchTest
  static final ArchRule noControllerAsksTheDatabase =
      noClasses()
          .that()
          .haveSimpleNameEndingWith("Controller")
          .should()
          .dependOnClassesThat()
          .areAssignableTo(DSLContext.class)
          .orShould()
          .dependOnClassesThat()
          .resideInAPackage("..server.tables..");

  @ArchTest
  static final ArchRule nothingLeansOnTheDemo =
      classes()
          .that()
          .resideInAPackage("..server.demo..")
          .should()
          .onlyBeAccessed()
          .byAnyPackage("..server.demo..");

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
