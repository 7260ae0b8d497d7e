package docksort.desktop.workshop;

/// Whether the latest change was a switch of the open timeline, which undo takes back before anything of
/// the project, and whether the latest taking back was one, which redo does again first. Only touched by
/// the project's steps.
final class UndoOrder {
    private boolean isSwitch;
    private boolean wasSwitch;

    void timelineSwitched() {
        isSwitch = true;
        wasSwitch = false;
    }

    /// @param more whether one that was done before it can be taken back too
    void switchTakenBack(boolean more) {
        isSwitch = more;
        wasSwitch = true;
    }

    void projectChanged() {
        isSwitch = false;
        wasSwitch = false;
    }

    boolean isSwitch() {
        return isSwitch;
    }

    boolean wasSwitch() {
        return wasSwitch;
    }
}
