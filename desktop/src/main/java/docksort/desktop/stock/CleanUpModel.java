package docksort.desktop.stock;

import docksort.arrival.Arrival;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.files.CopyRemoval;
import docksort.media.ByteSize;
import docksort.stock.CleanUp;
import docksort.stock.CopySelection;
import docksort.stock.Limits;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/// Which copies may make room, and what each way of making it would do.
final class CleanUpModel {
    static final String STOP_USING = "stop-using";
    static final String FORGET = "forget";
    static final String TO_TRASH = "to-trash";
    static final String DELETE = "delete-for-good";
    private static final long GIGABYTE = 1_000_000_000;

    private CleanUpModel() {}

    /// Which copies are meant.
    enum Which {
        PAST("past the project's limits"),
        ALL("all copies"),
        UNUSED("not used for 7 days"),
        OLD("made at least 30 days ago"),
        BUDGET("beyond a budget of 100 GB");

        private final String label;

        Which(String label) {
            this.label = label;
        }

        String label() {
            return label;
        }

        /// What a look finds where nothing is meant.
        String none() {
            return this == PAST ? "No copy is past the limits" : "No copy is meant by this";
        }

        /// @param arrival empty for all
        CopySelection selection(Optional<Arrival> arrival) {
            CopySelection selection = switch (this) {
                case PAST, ALL -> CopySelection.ALL;
                case UNUSED -> CopySelection.ALL.unusedFor(CopySelection.USUAL_AGE);
                case OLD -> CopySelection.ALL.olderThan(Duration.ofDays(30));
                case BUDGET -> CopySelection.ALL.within(new ByteSize(100 * GIGABYTE));
            };
            return arrival.map(one -> selection.of(one.id())).orElse(selection);
        }

        /// Where a person begins.
        static Which first(Limits limits) {
            return limits.isNone() ? UNUSED : PAST;
        }
    }

    /// Limits as they are written into two fields.
    ///
    /// @param days that a copy is kept after it was last needed; empty for no limit
    /// @param gigabytes that all copies take together; empty for no limit
    record Written(String days, String gigabytes) {
        static Written of(Limits limits) {
            return new Written(
                    limits.unusedFor().map(age -> Long.toString(age.toDays())).orElse(""),
                    limits.most()
                            .map(bytes -> Long.toString(bytes.bytes() / GIGABYTE))
                            .orElse(""));
        }

        boolean isSound() {
            return isWhole(days) && isWhole(gigabytes);
        }

        private static boolean isWhole(String text) {
            return text.isBlank() || text.strip().matches("[1-9]\\d{0,6}");
        }

        /// What the button says, which is pressed only where both are sound.
        String deed() {
            return isSound() ? "Set as limits" : "Whole numbers, or nothing";
        }

        Limits limits() {
            return new Limits(
                    whole(days).map(Duration::ofDays), whole(gigabytes).map(count -> new ByteSize(count * GIGABYTE)));
        }

        private static Optional<Long> whole(String text) {
            return text.isBlank() ? Optional.empty() : Optional.of(Long.valueOf(text.strip()));
        }
    }

    static List<WorkingCopy> meant(CleanUp plan) {
        return plan.lines().stream().map(CleanUp.Line::copy).toList();
    }

    static TaskFindings of(CleanUp plan, Which which) {
        int all = plan.lines().size();
        if (all == 0) {
            return TaskFindings.done(which.none());
        }
        int going = plan.going().size();
        return new TaskFindings(
                all + (all == 1 ? " copy meant; deleting " : " copies meant; deleting ") + going + " of them frees "
                        + plan.bytes(),
                plan.lines().stream().map(CleanUpModel::line).toList(),
                List.of(
                        new Deed(STOP_USING, "Stop using " + all, false, true),
                        new Deed(FORGET, "Forget " + all, false, true),
                        new Deed(TO_TRASH, "Move " + going + " to the trash", false, going > 0),
                        new Deed(DELETE, "Delete " + going + " for good", false, going > 0)));
    }

    private static TaskLine line(CleanUp.Line line) {
        String name = String.valueOf(line.copy().file().getFileName());
        return line.refusal()
                .map(why -> new TaskLine(Tone.STOP, "stays", name, "", why))
                .orElseGet(() -> new TaskLine(
                        Tone.GOOD,
                        "may go",
                        name,
                        line.bytes().toString(),
                        line.copy().file().toString()));
    }

    static TaskFindings stopped(int count) {
        return TaskFindings.done(count + " copies no longer serve; their files stay. Undo takes it back.");
    }

    static TaskFindings forgotten(int count) {
        return TaskFindings.done(count + " copies forgotten; their files stay. Undo takes it back.");
    }

    static TaskFindings deleted(CopyRemoval.Outcome outcome, boolean trash) {
        return TaskFindings.done(
                outcome.gone().size()
                        + (trash ? " copies are in the trash" : " copies deleted")
                        + (outcome.left().isEmpty() ? "" : "; " + outcome.left().size() + " stayed"),
                outcome.left().entrySet().stream()
                        .map(left -> new TaskLine(
                                Tone.STOP, "stays", String.valueOf(left.getKey().getFileName()), "", left.getValue()))
                        .toList());
    }
}
