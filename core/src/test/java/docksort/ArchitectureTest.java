package docksort;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noMethods;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.nio.file.Files;

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
            .layer("look")
            .definedBy("docksort.look")
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
            .whereLayer("look")
            .mayOnlyBeAccessedByLayers("engine", "project")
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
                    DescribedPredicate.describe(
                            "write, move, copy, create or delete files",
                            call -> call.getTargetOwner().isEquivalentTo(Files.class)
                                    && call.getTarget()
                                            .getName()
                                            .matches(
                                                    "write.*|move|copy|delete.*|create.*|newOutputStream|newBufferedWriter|set.*")));

    /// Whoever looks at a run or asks something of it takes its lock: nothing is done under it that may
    /// take a while, on a dead volume for ever.
    @ArchTest
    static final ArchRule nothingSlowIsDoneUnderTheRunsLock = noClasses()
            .that()
            .haveNameMatching("docksort\\.run\\.(RunState|RunQueue|WorkerCount|WorkSpeed|Group)(\\$.*)?")
            .should()
            .callMethodWhere(DescribedPredicate.describe(
                    "ask a disk, the catalogue or another process",
                    call -> call.getTargetOwner()
                                    .getName()
                                    .matches("java\\.nio\\.file\\.Files|java\\.io\\..*|java\\.lang\\.Process.*"
                                            + "|docksort\\.files\\..*|docksort\\.catalogue\\.(Catalogue|.*Store)"
                                            + "|docksort\\.engine\\.(?!Brake|Cancellation).*")
                            || call.getTarget().getFullName().matches(".*\\.Obstacle.*\\.stands\\(.*")
                            || call.getTarget().getFullName().matches(".*\\.Brake\\.set\\(.*")
                            || call.getTarget().getFullName().matches(".*\\.Terms\\.others\\(.*")));

    /// Only the state of a run has a lock there, so that the rule above speaks of all of them.
    @ArchTest
    static final ArchRule onlyTheStateOfARunLocks = noMethods()
            .that()
            .areDeclaredInClassesThat(DescribedPredicate.describe(
                    "are of a run, but not its state nor its look at the machine",
                    owner -> owner.getPackageName().equals("docksort.run")
                            && !owner.getSimpleName().matches("RunState|MachineUse")))
            .should()
            .haveModifier(JavaModifier.SYNCHRONIZED);
}
