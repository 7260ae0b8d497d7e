package docksort.desktop.sort;

import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.Workshop;
import docksort.sort.BookMerge;
import docksort.sort.BookOutcome;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;
import javafx.util.Subscription;

/// Keeps a change of rules or recipes. Where somebody else changed the same since it was looked at, both are
/// shown and the person decides; what was typed stays until then.
final class Keeping {
    private final Workshop workshop;
    private final Runnable done;
    private Subscription others = Subscription.EMPTY;
    private final VBox question = new VBox(6);
    private final Label elsewhere = Parts.wrapped("", "look");
    private final VBox node = new VBox(6, elsewhere, question);

    /// @param subject what the page changes, as other workstations are told; empty for nothing that is there
    /// @param done after it is kept, or left
    Keeping(Workshop workshop, String subject, Runnable done) {
        this.workshop = workshop;
        this.done = done;
        question.setId("both-changed");
        elsewhere.setId("open-elsewhere");
        shown(false);
        show(List.of());
        if (!subject.isEmpty()) {
            node.sceneProperty().subscribe(scene -> opened(subject, scene != null));
        }
    }

    private void opened(String subject, boolean open) {
        workshop.editing().open(subject, open);
        others.unsubscribe();
        others = open
                ? workshop.editing().others().subscribe(all -> show(all.getOrDefault(subject, List.of())))
                : Subscription.EMPTY;
    }

    private void show(List<String> who) {
        elsewhere.setText(who.isEmpty() ? "" : openElsewhere(who));
        elsewhere.setVisible(!who.isEmpty());
        elsewhere.setManaged(!who.isEmpty());
    }

    static String openElsewhere(List<String> who) {
        return String.join(", ", who) + (who.size() == 1 ? " has" : " have") + " it open too, to change it";
    }

    /// Has its place at the top of a page.
    VBox node() {
        return node;
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
