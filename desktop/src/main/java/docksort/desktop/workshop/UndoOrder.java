package docksort.desktop.workshop;

/// Whether the latest change was a switch of the open timeline, which undo takes back before anything of
/// the project. Only touched by the project's steps.
final class UndoOrder {
    private boolean isSwitch;

    void timelineSwitched() {
        isSwitch = true;
    }

    void projectChanged() {
        isSwitch = false;
    }

    boolean isSwitch() {
        return isSwitch;
    }
}
