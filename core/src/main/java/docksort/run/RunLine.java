package docksort.run;

import docksort.catalogue.WorkingCopy;
import docksort.run.CopyCheck.Finding;
import java.time.Instant;
import java.util.List;

/// What became of one copy in one run, as it is kept and reported.
///
/// @param recipe the recipe's name as it was
/// @param file where the copy lies, or was to lie
/// @param state "ready" or "failed"
/// @param words what its check found, or why it failed
/// @param begunMillis since 1970, UTC
/// @param endedMillis since 1970, UTC
/// @param makingSeconds how long encoding took, with what was made beside it
/// @param checkingSeconds how long its check took
/// @param encoder what coded it where it was not the usual software, empty otherwise
/// @param together how many copies came from the same decode
/// @param segments in how many it was made at the same time, 1 for one piece
/// @param originalBytes of all files of the clip; 0 in runs of before, which did not say
public record RunLine(
        String clip,
        String original,
        String recipe,
        String file,
        String state,
        String words,
        long begunMillis,
        long endedMillis,
        double makingSeconds,
        double checkingSeconds,
        double clipSeconds,
        long frames,
        long bytes,
        String encoder,
        int together,
        int segments,
        long originalBytes,
        List<Finding> findings) {
    public RunLine {
        findings = List.copyOf(findings);
        segments = Math.max(1, segments); // runs of before had one piece and did not say
    }

    /// How many seconds of the clip were made in one second, 0 when nothing was.
    public double timesRealTime() {
        return makingSeconds > 0 ? clipSeconds / makingSeconds : 0;
    }

    /// What is told of a copy that came to its end now.
    static RunLine of(Job job, WorkingCopy copy, List<Finding> findings, Spent spent, double checking) {
        return new RunLine(
                job.clip().name(),
                job.clip().source().head().toString(),
                job.recipe().name(),
                copy.file().toString(),
                copy.state().label(),
                copy.note(),
                spent.since().toEpochMilli(),
                Instant.now().toEpochMilli(),
                spent.seconds(),
                checking,
                job.form().rate().secondsOf(job.form().frames()).toDouble(),
                job.form().frames(),
                copy.place().bytes(),
                spent.encoder(),
                spent.together(),
                spent.segments(),
                job.clip().facts().size().bytes(),
                findings);
    }
}
