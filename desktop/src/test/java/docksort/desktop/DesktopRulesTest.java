package docksort.desktop;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "docksort.desktop", importOptions = ImportOption.DoNotIncludeTests.class)
class DesktopRulesTest {
    @ArchTest
    static final ArchRule modelsKnowNoSceneNoEngineAndNoDatabase = noClasses()
            .that()
            .haveSimpleNameEndingWith("Model")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "javafx.scene..",
                    "javafx.stage..",
                    "javafx.application..",
                    "docksort.engine..",
                    "docksort.project..",
                    "java.sql..",
                    "org.jdbi..");

    /// They are given the views, and what they may do: neither the whole workshop nor a desk.
    @ArchTest
    static final ArchRule modelsStandOnNarrowPorts = noClasses()
            .that()
            .haveSimpleNameEndingWith("Model")
            .should()
            .dependOnClassesThat()
            .haveNameMatching("docksort\\.desktop\\.workshop\\.(Workshop|.*Desk|ViewFeed|ProjectThread)");

    /// The program itself opens and ends them.
    @ArchTest
    static final ArchRule onlyTheWorkshopSpeaksToTheProject = noClasses()
            .that()
            .resideOutsideOfPackages("docksort.desktop.workshop..", "docksort.desktop.work..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("docksort.project..", "docksort.engine..");

    @ArchTest
    static final ArchRule theWorkshopKnowsNoScene = noClasses()
            .that()
            .resideInAnyPackage("docksort.desktop.workshop..", "docksort.desktop.work..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("javafx.scene..", "javafx.stage..", "javafx.application..");

    @ArchTest
    static final ArchRule noImportRunsUpwards = layeredArchitecture()
            .consideringOnlyDependenciesInLayers()
            .layer("program")
            .definedBy("docksort.desktop")
            .layer("shell")
            .definedBy("docksort.desktop.shell")
            .layer("stations")
            .definedBy(
                    "docksort.desktop.arrivals",
                    "docksort.desktop.sort",
                    "docksort.desktop.run",
                    "docksort.desktop.stock",
                    "docksort.desktop.dispatch")
            .layer("pair")
            .definedBy("docksort.desktop.pair")
            .layer("parts")
            .definedBy("docksort.desktop.parts")
            .layer("workshop")
            .definedBy("docksort.desktop.workshop")
            .layer("work")
            .definedBy("docksort.desktop.work")
            .whereLayer("program")
            .mayNotBeAccessedByAnyLayer()
            .whereLayer("shell")
            .mayOnlyBeAccessedByLayers("program")
            .whereLayer("stations")
            .mayOnlyBeAccessedByLayers("program", "shell")
            .whereLayer("pair")
            .mayOnlyBeAccessedByLayers("stations")
            .whereLayer("parts")
            .mayOnlyBeAccessedByLayers("program", "shell", "stations", "pair")
            .whereLayer("workshop")
            .mayOnlyBeAccessedByLayers("program", "shell", "stations", "pair", "parts");

    @ArchTest
    static final ArchRule theWindowKnowsNoCommandLine = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("docksort.cli..", "docksort.bench..", "picocli..");

    @ArchTest
    static final ArchRule stationsKnowNotEachOther = slices().matching(
                    "docksort.desktop.(arrivals|sort|run|stock|dispatch)..")
            .should()
            .notDependOnEachOther();
}
