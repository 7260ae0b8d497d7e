package docksort.bench;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/// A small part of the drill: each kind of fault once, with the same programs.
@Tag("media")
class SharedDrillTest {
    @Test
    @Timeout(600)
    void eachKindOfFaultLeavesWhatOneMachineAloneWouldMake(@TempDir Path folder) throws Exception {
        assertThat(SharedDrill.drill(folder, 5, 20)).isEmpty();
    }
}
