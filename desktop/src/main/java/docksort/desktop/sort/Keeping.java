package docksort.desktop.sort;

import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.Workshop;
import docksort.sort.BookMerge;
import docksort.sort.BookOutcome;
import javafx.scene.control.Button;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/// Keeps a change of rules or recipes. Where somebody else changed the same since it was looked at, both are shown
/// and the person decides; what was typed stays until then.
final class Keeping {
    private final Workshop workshop;
    private final Runnable done;
    private final VBox question = new VBox(6);

    /// @param done after it is kept, or left
    Keeping(Workshop workshop, Runnable done) {
        this.workshop = workshop;
        this.done = done;
        question.setId("both-changed");
        shown(false);
    }

    /// Has its place at the top of a page.
    VBox node() {
        return question;
    }

    void keep(BookChange change) {
        workshop.sort().change(change.base(), change.book(), change.words(), changed -> {
            switch (changed) {
                case BookOutcome.Kept _ -> done.run();
                case BookOutcome.Both both -> ask(both, change.words());
            }
        });
    }

    private void ask(BookOutcome.Both both, String words) {
        question.getChildren().setAll(Parts.wrapped("Somebody changed the same since you opened it", "look"));
        question.getChildren().add(Parts.wrapped(both.who()));
        for (BookMerge.Both one : both.both()) {
            question.getChildren()
                    .addAll(
                            Parts.section(one.what()),
                            Parts.label("as it is now", "quiet"),
                            Parts.wrapped(one.theirs()),
                            Parts.label("as you want it", "quiet"),
                            Parts.wrapped(one.mine()));
        }
        Button leave = Parts.button("Leave it as it is now", done);
        leave.setId("leave-theirs");
        var buttons = new FlowPane(8, 8, leave);
        both.mine()
                .ifPresentOrElse(
                        mine -> {
                            Button put = Parts.button("Put mine in its place", () -> {
                                shown(false);
                                keep(new BookChange(both.theirs(), mine, words));
                            });
                            put.setId("put-mine");
                            buttons.getChildren().add(put);
                        },
                        () -> question.getChildren()
                                .add(Parts.wrapped(
                                        "Both do not go together: leave it, and begin again from there.", "quiet")));
        question.getChildren().add(buttons);
        shown(true);
    }

    private void shown(boolean visible) {
        question.setVisible(visible);
        question.setManaged(visible);
    }
}
