package docksort.run;

/// Finds how many copies at the same time get the most work done, by trying: one more for a while, which
/// stays when that was worth it, or one fewer, which stays when nothing was lost by it. Not safe for use
/// by several threads.
///
/// How many are best hangs on codecs, memory and volumes as much as on processors; a count of processors
/// is only where the search begins.
final class WorkerCount {
    /// Gain that keeps one more.
    static final double WORTH = 1.05;

    /// Measures after which it is tried anew, because other clips may be in the making.
    static final int SETTLED = 20;

    private int most;
    private boolean fixed;
    private int best;
    private int trying;
    private double bestSpeed;
    private int restsFor;
    private boolean fewerIsNext;

    /// @param start where the search begins
    /// @param most more are never tried; equal to the start for a fixed number
    WorkerCount(int start, int most) {
        this.most = Math.max(start, most);
        this.fixed = start >= most;
        this.best = start;
        this.trying = start;
    }

    /// How many are to be at work now.
    int size() {
        return trying;
    }

    /// How many were found to be best so far.
    int best() {
        return best;
    }

    /// Hears how much was done in a while in which as many were at work as wanted.
    ///
    /// @param speed work in a unit of time, in any unit
    void measured(double speed) {
        if (fixed) {
            return;
        }
        if (trying > best) {
            boolean worth = speed > bestSpeed * WORTH;
            settle(worth ? trying : best, worth ? speed : bestSpeed);
            restsFor = worth ? 0 : SETTLED;
            fewerIsNext = !worth;
        } else if (trying < best) {
            boolean asGood = speed * WORTH > bestSpeed;
            settle(asGood ? trying : best, asGood ? speed : bestSpeed);
            restsFor = SETTLED;
            fewerIsNext = false;
        } else {
            bestSpeed = speed;
            restsFor--;
        }
        if (restsFor <= 0) {
            trying = fewerIsNext ? Math.max(1, best - 1) : Math.min(most, best + 1);
            if (trying == best) {
                restsFor = SETTLED;
                fewerIsNext = !fewerIsNext;
            }
        }
    }

    /// So many at a time were more than the machine has memory for.
    void fewer() {
        most = Math.max(1, trying - 1);
        fixed |= most == 1;
        best = Math.min(best, most);
        trying = best;
        restsFor = SETTLED;
    }

    private void settle(int number, double speed) {
        best = number;
        trying = number;
        bestSpeed = speed;
    }
}
