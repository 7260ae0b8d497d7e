package docksort.desktop;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "docksort.desktop", importOptions = ImportOption.DoNotIncludeTests.class)
class DesktopRulesTest {
    @ArchTest
    static final ArchRule modelsKnowNoScene = noClasses()
            .that()
            .haveSimpleNameEndingWith("Model")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("javafx.scene..");

    @ArchTest
    static final ArchRule onlyTheWorkshopAndItsDesksSpeakToTheProject = noClasses()
            .that()
            .haveNameNotMatching("docksort\\.desktop\\.(Workshop|StockDesk|DispatchDesk|PairDesk|work\\..*)(\\$.*)?")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("docksort.project..", "docksort.engine..");

    @ArchTest
    static final ArchRule theWindowKnowsNoCommandLine = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("docksort.cli..", "docksort.bench..", "picocli..");

    @ArchTest
    static final ArchRule stationsKnowNotEachOther = classes()
            .that()
            .resideInAPackage("docksort.desktop.sort")
            .should()
            .onlyBeAccessed()
            .byAnyPackage("docksort.desktop", "docksort.desktop.sort");
}
