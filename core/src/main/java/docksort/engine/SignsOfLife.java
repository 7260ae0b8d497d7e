package docksort.engine;

import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;

/// Tells when a child has to be ended, because it says nothing or because it does nothing.
///
/// An engine's reports and statistics come from a thread of their own. They go on when the threads that work
/// wait for each other (seen with FFmpeg 8.0.1) and when a volume gives no more bytes, and they rest while a
/// file that is finished is put in order. So what counts as a sign is news, and the processor time that is
/// spent.
///
/// Time is counted in looks at the child, so that a machine that slept is no silence.
final class SignsOfLife {
    /// How often a child is looked at.
    static final Duration BETWEEN_LOOKS = Duration.ofMillis(200);

    /// A volume that fetches a file from elsewhere first looks like an engine that stands still.
    private static final int STILL_FOR_SILENT = 5;

    /// The share of its time that a child works at least, in hundredths. One that does nothing but report four
    /// times a second spends a thirtieth of one (20 ms of 58 s).
    private static final int WORK = 1;

    private static final Set<String> NEWS = Set.of("frame", "out_time_us", "total_size");

    private final boolean reports;
    private final Wait silence;
    private final Wait standstill;
    private final Map<String, String> reported = new HashMap<>();
    private boolean said;
    private boolean moved;

    private SignsOfLife(Duration longestSilence, boolean reports, boolean workCounts) {
        this.reports = reports;
        this.silence = new Wait(longestSilence, workCounts);
        this.standstill = new Wait(standstill(longestSilence), true);
    }

    /// Of a child that has to answer soon, however hard it works.
    static SignsOfLife ofAnswers(Duration longestSilence) {
        return new SignsOfLife(longestSilence, false, false);
    }

    /// Of a child that writes pictures or sound.
    static SignsOfLife ofOutput(Duration longestSilence) {
        return new SignsOfLife(longestSilence, false, true);
    }

    /// Of a child that writes lines of `-progress` ([#report]).
    static SignsOfLife ofReports(Duration longestSilence) {
        return new SignsOfLife(longestSilence, true, true);
    }

    /// How long a child may report and do nothing.
    static Duration standstill(Duration longestSilence) {
        return longestSilence.multipliedBy(STILL_FOR_SILENT);
    }

    /// It wrote to its error stream.
    synchronized void told() {
        said = true;
    }

    /// It wrote to its standard output.
    synchronized void wrote() {
        said = true;
        moved |= !reports;
    }

    /// A line of `-progress`.
    synchronized void report(String line) {
        int equals = line.indexOf('=');
        if (equals > 0 && NEWS.contains(line.substring(0, equals))) {
            String value = line.substring(equals + 1);
            moved |= !value.equals(reported.put(line.substring(0, equals), value));
        }
    }

    /// It is held, and can give no sign.
    synchronized void held() {
        said = true;
        moved = true;
    }

    /// One look at it, as long after the last one as [#BETWEEN_LOOKS] says.
    ///
    /// @return why it has to be ended, or that it has not
    synchronized ChildProcesses.Cut look(ProcessHandle child) {
        // Where a system does not tell it, only what is written counts.
        Duration spent = child.info().totalCpuDuration().orElse(Duration.ZERO);
        boolean silent = silence.isOver(said, spent);
        boolean still = standstill.isOver(moved, spent);
        said = false;
        moved = false;
        return silent ? ChildProcesses.Cut.SILENT : still ? ChildProcesses.Cut.STILL : ChildProcesses.Cut.NONE;
    }

    /// Waits for one kind of sign.
    private static final class Wait {
        private final long longest;
        private final Duration work;
        private final boolean workCounts;
        private long looks;
        private Duration spent = Duration.ZERO;

        Wait(Duration longest, boolean workCounts) {
            this.longest = longest.dividedBy(BETWEEN_LOOKS);
            this.work = longest.multipliedBy(WORK).dividedBy(100);
            this.workCounts = workCounts;
        }

        boolean isOver(boolean sign, Duration now) {
            if (sign || (workCounts && now.minus(spent).compareTo(work) >= 0)) {
                looks = 0;
                spent = now;
            } else {
                looks++;
            }
            return looks >= longest;
        }
    }
}
