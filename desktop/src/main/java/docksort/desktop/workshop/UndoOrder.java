package docksort.desktop.workshop;

/// Whether the latest change was a switch of the open timeline, which undo takes back before anything of
/// the project, and whether the latest taking back was one, which redo does again first. Only touched by
/// the project's steps.
final class UndoOrder {
    private boolean isSwitch;
    private boolean wasSwitch;
    private int later; // changes of the project that were taken back after a switch was

    void timelineSwitched() {
        isSwitch = true;
        wasSwitch = false;
        later = 0;
    }

    /// @param more whether one that was done before it can be taken back too
    void switchTakenBack(boolean more) {
        isSwitch = more;
        wasSwitch = true;
        later = 0;
    }

    void projectTakenBack() {
        later += wasSwitch ? 1 : 0;
    }

    void projectDoneAgain() {
        later = Math.max(0, later - 1);
    }

    void projectChanged() {
        isSwitch = false;
        wasSwitch = false;
        later = 0;
    }

    boolean isSwitch() {
        return isSwitch;
    }

    boolean wasSwitch() {
        return wasSwitch && later == 0;
    }
}
