package eleutheria.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.methods;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import eleutheria.server.web.Needs;
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
  static final ArchRule noControllerWritesFacts =
      noClasses()
          .that()
          .haveSimpleNameEndingWith("Controller")
          .should()
          .dependOnClassesThat()
          .haveFullyQualifiedName("eleutheria.server.ledger.FactStore");

  @ArchTest
  static final ArchRule nothingLeansOnTheDemo =
      classes()
          .that()
          .resideInAPackage("..server.demo..")
          .should()
          .onlyBeAccessed()
          .byAnyPackage("..server.demo..");
}
