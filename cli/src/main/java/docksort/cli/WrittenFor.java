package docksort.cli;

import docksort.dispatch.Addressing;
import docksort.project.Roots;
import java.util.Optional;
import picocli.CommandLine.Option;

/// For whom the addresses in a timeline are written.
final class WrittenFor {
    @Option(
            names = "--for",
            paramLabel = "WORKSTATION",
            defaultValue = "",
            description = "Write paths as this workstation sees them; see the command place.")
    private String workstation = "";

    @Option(names = "--relative", description = "Write paths relative to the timeline.")
    private boolean relative;

    Addressing addressing(Roots roots) {
        Addressing.Manner manner = relative ? Addressing.Manner.RELATIVE : Addressing.Manner.ABSOLUTE;
        return Optional.of(workstation)
                .filter(name -> !name.isBlank())
                .map(name -> Addressing.forWorkstation(roots.places(), name, manner))
                .orElse(relative ? Addressing.relative() : Addressing.AS_IT_STANDS);
    }
}
