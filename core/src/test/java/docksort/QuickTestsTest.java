package docksort;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import docksort.engine.MediaEngine;

/// What `./dock-sort test --quick` leaves out says so itself.
@AnalyzeClasses(packages = "docksort", importOptions = ImportOption.OnlyIncludeTests.class)
class QuickTestsTest {
    private static final DescribedPredicate<JavaClass> START_THE_ENGINE = DescribedPredicate.describe(
            "start the engine",
            type -> type.getMethodCallsFromSelf().stream()
                    .anyMatch(call -> call.getTargetOwner().isEquivalentTo(MediaEngine.class)
                            && call.getName().equals("locate")));

    @ArchTest
    static final ArchRule testsThatStartTheEngineAreMarked = classes()
            .that(START_THE_ENGINE)
            .and()
            .haveSimpleNameEndingWith("Test")
            .should()
            .beAnnotatedWith(WithMedia.class);
}
