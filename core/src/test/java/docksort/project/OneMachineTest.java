package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.files.MachineLock;
import docksort.problem.CoreException.CatalogueUnavailable;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A project in a file that lies on a volume of a network, as its folder says here.
class OneMachineTest {
    @TempDir
    Path folder = Path.of("");

    private Optional<MachineLock> open(String machine) {
        return Project.oneMachine(folder, _ -> true, machine);
    }

    @Test
    void programsOfOneMachineHaveItOpenTogetherAndThoseOfAnotherDoNot() {
        try (MachineLock _ = open("desk").orElseThrow();
                MachineLock _ = open("desk").orElseThrow()) {
            assertThatThrownBy(() -> open("suite"))
                    .isInstanceOf(CatalogueUnavailable.class)
                    .hasMessageContaining("another machine has it open")
                    .hasMessageContaining("share it");
        }
        try (MachineLock _ = open("suite").orElseThrow()) {
            assertThatThrownBy(() -> open("desk")).isInstanceOf(CatalogueUnavailable.class);
        }
    }

    @Test
    void aProjectOnADiskOrInADatabaseAsksNobody() throws Exception {
        assertThat(Project.oneMachine(folder, MachineLock::isNeededIn, "desk"))
                .as("the test's own disk")
                .isEmpty();
        Files.writeString(folder.resolve(Sharing.FILE), "{}");
        assertThat(open("desk")).isEmpty();
    }
}
