package docksort.desktop.parts;

import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import javafx.scene.Node;

/// States of copies and originals as a shape and a word.
public final class CopyMark {
    private CopyMark() {}

    /// What the mark of a copy depends on.
    public record Look(
            CopyState state, boolean awaits, boolean stopped, boolean cameras, boolean adopted, boolean onTrust) {
        public static Look of(WorkingCopy copy) {
            return new Look(
                    copy.state(),
                    copy.awaitsAcceptance(),
                    copy.service().stopped(),
                    copy.isCameras(),
                    copy.isAdopted(),
                    copy.isOnTrust());
        }
    }

    public static Node of(CopyState state) {
        return of(state, state.label());
    }

    public static Node of(CopyState state, String word) {
        return switch (state) {
            case READY_WITH_HOLES -> Parts.marked(Mark.look(), word, "look");
            case READY -> Parts.marked(Mark.full(), word);
            case WANTED, WAITING -> Parts.marked(Mark.open(), word);
            case MAKING, CHECKING -> Parts.marked(Mark.arrow("good"), word);
            case STALE, MISSING, SUSPECT -> Parts.marked(Mark.look(), word, "look");
            case FAILED -> Parts.marked(Mark.cross("stop"), word, "stop");
        };
    }

    /// With what is special about the copy.
    public static Node of(WorkingCopy copy) {
        if (copy.awaitsAcceptance()) {
            return of(copy.state(), "with holes, not accepted");
        }
        if (copy.service().stopped() && copy.state().serves()) {
            return Parts.marked(Mark.open(), "not in use", "quiet");
        }
        String whose = copy.isCameras() ? ", camera" : copy.isAdopted() ? ", adopted" : "";
        if (copy.isOnTrust() && copy.state() == CopyState.READY) {
            return Parts.marked(Mark.look(), "on trust", "look");
        }
        return of(copy.state(), copy.state().label() + whose);
    }

    /// The same in the width of a list's column; whether holes were accepted stands in the shape.
    public static Node brief(WorkingCopy copy) {
        if (copy.state() != CopyState.READY_WITH_HOLES) {
            return of(copy);
        }
        return copy.awaitsAcceptance()
                ? Parts.marked(Mark.look(), "with holes", "look")
                : Parts.marked(Mark.full(), "with holes");
    }

    public static Node of(Presence presence) {
        return switch (presence.state()) {
            case ONLINE -> Parts.marked(Mark.full(), presence.state().label());
            case OFFLINE, MOVED -> Parts.marked(Mark.look(), presence.state().label(), "look");
            case REFUSED -> Parts.marked(Mark.cross("stop"), presence.state().label(), "stop");
        };
    }
}
