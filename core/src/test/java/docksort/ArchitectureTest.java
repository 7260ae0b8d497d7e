package docksort;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "docksort", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
    @ArchTest
    static final ArchRule everyRoomUsesOnlyTheRoomsBeforeIt = layeredArchitecture()
            .consideringOnlyDependenciesInLayers()
            .layer("problem")
            .definedBy("docksort.problem")
            .layer("media")
            .definedBy("docksort.media")
            .layer("index")
            .definedBy("docksort.index")
            .layer("files")
            .definedBy("docksort.files")
            .layer("engine")
            .definedBy("docksort.engine")
            .layer("arrival")
            .definedBy("docksort.arrival")
            .layer("strain")
            .definedBy("docksort.strain")
            .layer("sort")
            .definedBy("docksort.sort")
            .layer("catalogue")
            .definedBy("docksort.catalogue")
            .layer("run")
            .definedBy("docksort.run")
            .layer("stock")
            .definedBy("docksort.stock")
            .layer("link")
            .definedBy("docksort.link")
            .layer("timeline")
            .definedBy("docksort.timeline")
            .layer("dispatch")
            .definedBy("docksort.dispatch")
            .layer("project")
            .definedBy("docksort.project")
            .whereLayer("project")
            .mayNotBeAccessedByAnyLayer()
            .whereLayer("dispatch")
            .mayOnlyBeAccessedByLayers("project")
            .whereLayer("timeline")
            .mayOnlyBeAccessedByLayers("dispatch", "project")
            .whereLayer("link")
            .mayOnlyBeAccessedByLayers("dispatch", "project")
            .whereLayer("stock")
            .mayOnlyBeAccessedByLayers("link", "dispatch", "project")
            .whereLayer("run")
            .mayOnlyBeAccessedByLayers("stock", "link", "dispatch", "project")
            .whereLayer("catalogue")
            .mayOnlyBeAccessedByLayers("run", "stock", "link", "dispatch", "project")
            .whereLayer("sort")
            .mayOnlyBeAccessedByLayers("catalogue", "run", "stock", "link", "dispatch", "project")
            .whereLayer("strain")
            .mayOnlyBeAccessedByLayers("sort", "catalogue", "run", "stock", "link", "dispatch", "project")
            .whereLayer("arrival")
            .mayOnlyBeAccessedByLayers("strain", "sort", "catalogue", "run", "stock", "link", "dispatch", "project")
            .whereLayer("engine")
            .mayOnlyBeAccessedByLayers("arrival", "strain", "run", "link", "project")
            .whereLayer("index")
            .mayOnlyBeAccessedByLayers("engine", "arrival");

    @ArchTest
    static final ArchRule packagesFormNoCycles =
            slices().matching("docksort.(*)..").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule coreKnowsNoInterface =
            noClasses().should().dependOnClassesThat().resideInAnyPackage("javafx..", "picocli..", "java.awt..");

    @ArchTest
    static final ArchRule onlyTheEngineStartsProcesses = noClasses()
            .that()
            .resideOutsideOfPackage("docksort.engine")
            .should()
            .dependOnClassesThat()
            .haveFullyQualifiedName("java.lang.ProcessBuilder");

    @ArchTest
    static final ArchRule onlyTheCatalogueSpeaksSql = noClasses()
            .that()
            .resideOutsideOfPackage("docksort.catalogue")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("java.sql..", "org.jdbi..", "org.sqlite..", "org.flywaydb..");

    @ArchTest
    static final ArchRule onlyFilesChangesFiles = noClasses()
            .that()
            .resideOutsideOfPackage("docksort.files")
            .should()
            .callMethodWhere(
                    com.tngtech.archunit.base.DescribedPredicate.describe(
                            "write, move, copy, create or delete files",
                            call -> call.getTargetOwner().isEquivalentTo(java.nio.file.Files.class)
                                    && call.getTarget()
                                            .getName()
                                            .matches(
                                                    "write.*|move|copy|delete.*|create.*|newOutputStream|newBufferedWriter|set.*")));
}
