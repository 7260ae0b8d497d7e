package docksort.bench;

import java.util.Random;

/// What one of the hands of the drill may do.
enum DrillAct {
    START,
    STOP,
    ENQUEUE,
    LEAVE_OUT,
    TAKE_OUT,
    BRING_FORWARD,
    RETRY,
    UNDO,
    FORGET,
    SWITCH,
    LEAVE,
    PACK,
    LOOK,
    CLOSE;

    private static final int SELDOM = 6;

    /// Any, but closing and stopping seldom, so that something gets made in between.
    static DrillAct next(Random random) {
        DrillAct act = DrillAct.values()[random.nextInt(DrillAct.values().length)];
        boolean ends = act == DrillAct.CLOSE || act == DrillAct.STOP;
        return ends && random.nextInt(SELDOM) > 0 ? DrillAct.ENQUEUE : act;
    }
}
