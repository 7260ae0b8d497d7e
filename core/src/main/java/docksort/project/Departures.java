package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.dispatch.Addressing;
import docksort.dispatch.Conform;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.dispatch.DepartureReport;
import docksort.dispatch.Switching;
import docksort.files.Checksum;
import docksort.files.Documents;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.timeline.TimelineDocument;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.BooleanSupplier;

/// Timelines that leave, only as they were checked.
public final class Departures {
    private final Catalogue catalogue;
    private final Settings settings;
    private final Timelines timelines;
    private final TimelineFiles files;
    private final Stocktaking stocktaking;
    private final InstantSource clock;

    Departures(
            Catalogue catalogue,
            Settings settings,
            Timelines timelines,
            TimelineFiles files,
            Stocktaking stocktaking,
            InstantSource clock) {
        this.catalogue = catalogue;
        this.settings = settings;
        this.timelines = timelines;
        this.files = files;
        this.stocktaking = stocktaking;
        this.clock = clock;
    }

    /// @param sums whether every file is read whole for its checksum
    public DepartureCheck check(
            Conform conform,
            Purpose purpose,
            boolean sums,
            BiConsumer<Integer, Integer> progress,
            BooleanSupplier cancelled) {
        return DepartureCheck.of(conform, purpose, ground(sums), progress, cancelled);
    }

    private DepartureCheck.Ground ground(boolean sums) {
        return new DepartureCheck.Ground(
                catalogue.timelines().forms(),
                settings.timelineFormat().raster(),
                settings.delivery(),
                settings.handles(),
                sums);
    }

    /// Where a timeline goes and who answers for it.
    ///
    /// @param signedBy name of the person
    /// @param override why it leaves although the check does not pass; empty where it must pass
    public record Departure(Path target, Addressing addressing, String signedBy, Optional<String> override) {}

    /// Lets a checked timeline leave, and only as it was checked: it, and a report as HTML and JSON
    /// beside it, are written together or not at all. One for a review says so in its name, in itself and
    /// in its report.
    ///
    /// @throws InputRefused when the check does not pass and nobody answers for it, when anything that it
    ///     looked at has changed since, or a file has no path where it goes
    public DepartureReport depart(TimelineDocument document, DepartureCheck check, Departure departure) {
        refuse(check, departure);
        Conform conform = timelines.conform(document, stocktaking.fresh());
        check.changesUntil(conform, ground(false)).ifPresent(changes -> {
            throw new InputRefused(new Problem(
                    "The timeline does not leave",
                    "changed since it was checked: " + changes,
                    "Nothing was written.",
                    "Check it again."));
        });
        Path target =
                named(departure.target(), check.purpose()).toAbsolutePath().normalize();
        TimelineDocument leaving = document.copy();
        if (check.purpose() == Purpose.REVIEW) {
            leaving.markReview("on copies, for a review; not for finishing");
        }
        readdress(conform.with(leaving), departure, target);
        leaving.refuseAs(target);
        byte[] bytes = leaving.bytes();
        var report = new DepartureReport(
                settings.name(),
                target,
                Checksum.XXH64.of(bytes),
                clock.instant(),
                departure.signedBy().strip(),
                check.passes() ? Optional.empty() : departure.override(),
                check);
        Optional<Path> kept = files.keep(target);
        var together = new LinkedHashMap<Path, byte[]>();
        together.put(Path.of(target + ".departure.html"), report.html().getBytes(StandardCharsets.UTF_8));
        together.put(Path.of(target + ".departure.json"), report.json().getBytes(StandardCharsets.UTF_8));
        together.put(target, bytes);
        Documents.replaceTogether(together);
        leaving.wasWritten(target);
        String what = target.getFileName() + " left for " + check.purpose().label() + ", signed by "
                + departure.signedBy().strip() + ": " + report.result()
                + report.override().map(reason -> " (" + reason + ")").orElse("");
        if (kept.isPresent()) {
            catalogue.timelines().replaced(target.toString(), kept.get().toString(), report.timelineSum(), what);
        } else {
            catalogue.activity().write(what);
        }
        return report;
    }

    private static void readdress(Conform leaving, Departure departure, Path target) {
        boolean here = departure.addressing().equals(Addressing.AS_IT_STANDS);
        Switching.Outcome outcome = Switching.readdress(
                leaving, here ? Addressing.ELSEWHERE : departure.addressing(), TimelineFiles.folderOf(target));
        if (!outcome.unreachable().isEmpty()) {
            throw new InputRefused(new Problem(
                    "The timeline was not written for "
                            + departure.addressing().workstation().orElse("another place"),
                    "it has no path for " + outcome.unreachable().getFirst()
                            + (outcome.unreachable().size() > 1
                                    ? " and " + (outcome.unreachable().size() - 1) + " more files"
                                    : ""),
                    "Nothing was written.",
                    "Say where that workstation sees the root of the file."));
        }
    }

    private static void refuse(DepartureCheck check, Departure departure) {
        String nothing = "Nothing was written.";
        if (!check.complete()) {
            throw new InputRefused(new Problem(
                    "The timeline does not leave", "its check was not finished", nothing, "Check it again."));
        }
        if (departure.signedBy().isBlank()) {
            throw new InputRefused(new Problem(
                    "The timeline does not leave",
                    "nobody signs for it",
                    nothing,
                    "Write the name of who lets it go."));
        }
        if (!check.passes()
                && departure.override().filter(reason -> !reason.isBlank()).isEmpty()) {
            var first = check.findings().stream()
                    .filter(DepartureCheck.Finding::blocks)
                    .findFirst()
                    .orElseThrow();
            long more = check.findings().stream()
                            .filter(DepartureCheck.Finding::blocks)
                            .count()
                    - 1;
            throw new InputRefused(new Problem(
                    "The timeline does not leave",
                    first.subject() + ": " + first.words() + (more > 0 ? "; and " + more + " more" : ""),
                    nothing,
                    "Put right what the check found, or let it go by name and reason."));
        }
    }

    private static Path named(Path target, Purpose purpose) {
        String name = String.valueOf(target.getFileName());
        if (purpose == Purpose.FINISHING || name.toLowerCase(Locale.ROOT).contains("review")) {
            return target;
        }
        int dot = name.lastIndexOf('.');
        return target.resolveSibling(
                dot < 0 ? name + "-review" : name.substring(0, dot) + "-review" + name.substring(dot));
    }
}
