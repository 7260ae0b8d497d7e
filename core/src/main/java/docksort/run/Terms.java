package docksort.run;

import java.time.Duration;

/// On what terms a run works.
///
/// @param workers how many copies are made at the same time; where the search begins, if they are to be found
/// @param mostWorkers more are never tried; equal to `workers` for a fixed number
/// @param patience how long it waits for a volume that went away or is full before copies count as failed
/// @param checksAll whether all of a copy is decoded in its check, or only what lies around some places
/// @param others what else the machine is busy with, for a gentle run
public record Terms(int workers, int mostWorkers, Pace pace, Duration patience, boolean checksAll, OtherWork others) {
    /// A fixed number of workers, at once, without waiting for anything.
    public static Terms fixed(int workers) {
        return new Terms(workers, workers, Pace.NOW, Duration.ZERO, true, OtherWork.NONE);
    }

    /// With a number of workers that stays.
    public Terms manned(int number) {
        return new Terms(number, number, pace, patience, checksAll, others);
    }

    public Terms at(Pace next) {
        return new Terms(workers, mostWorkers, next, patience, checksAll, others);
    }

    public Terms patient(Duration next) {
        return new Terms(workers, mostWorkers, pace, next, checksAll, others);
    }

    public Terms besides(OtherWork next) {
        return new Terms(workers, mostWorkers, pace, patience, checksAll, next);
    }

    public Terms checkingAll(boolean next) {
        return new Terms(workers, mostWorkers, pace, patience, next, others);
    }
}
