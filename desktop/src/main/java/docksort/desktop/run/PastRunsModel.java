package docksort.desktop.run;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.media.ByteSize;
import docksort.run.RunReport;
import java.time.Duration;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;

/// What runs made, one line each.
final class PastRunsModel {
    static final int MOST = 500;
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ROOT);

    private PastRunsModel() {}

    static TaskFindings of(List<RunReport> runs, ZoneId zone) {
        if (runs.isEmpty()) {
            return TaskFindings.done("No copy has come to its end in a run yet. Start one in Sort.");
        }
        long ready = runs.stream().mapToLong(RunReport::ready).sum();
        long bytes = runs.stream().mapToLong(RunReport::bytes).sum();
        return TaskFindings.done(
                (runs.size() < MOST
                                ? runs.size() + (runs.size() == 1 ? " run: " : " runs: ")
                                : "The latest " + MOST + " runs: ")
                        + ready + (ready == 1 ? " copy" : " copies") + " made and checked, " + new ByteSize(bytes)
                        + ". Choose a run to write its report.",
                runs.stream().map(run -> line(run, zone)).toList());
    }

    private static TaskLine line(RunReport run, ZoneId zone) {
        String words = run.ready() + " ready, " + run.failed() + " failed";
        return new TaskLine(
                run.failed() > 0 ? Tone.LOOK : Tone.GOOD,
                run.failed() > 0 ? "failed " + run.failed() : "all ready",
                TIME.format(run.started().atZone(zone)),
                lasting(Duration.between(run.started(), run.ended())),
                words + ", " + new ByteSize(run.bytes())
                        + (run.originalBytes() == 0 ? "" : "; originals " + new ByteSize(run.originalBytes())));
    }

    private static String lasting(Duration time) {
        if (time.toMinutes() < 2) {
            return Math.max(1, time.toSeconds()) + " s";
        }
        return time.toMinutes() < 120
                ? time.toMinutes() + " min"
                : time.toHours() + " h " + time.toMinutesPart() + " min";
    }
}
