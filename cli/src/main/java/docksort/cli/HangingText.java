package docksort.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.catalogue.TakenOut.Hanging;

/// What goes out of the project with something, as text and for machines.
final class HangingText {
    private HangingText() {}

    static void tell(Common common, Hanging hanging, boolean preview) {
        common.say("  clips             %d", hanging.clips());
        common.say("  unreadable files  %d", hanging.unreadable());
        common.say("  finished copies   %d; their files stay", hanging.copies());
        common.say("  copies to make    %d", hanging.wanted());
        common.say("  recipes by hand   %d", hanging.choices());
        common.say("  pins              %d", hanging.pins());
        common.say("  used by timelines %d", hanging.used());
        common.say("%s", preview ? "Nothing was changed." : "dock-sort undo brings all of it back.");
    }

    static ObjectNode put(ObjectNode answer, Hanging hanging) {
        return answer.put("clips", hanging.clips())
                .put("unreadable", hanging.unreadable())
                .put("copies", hanging.copies())
                .put("wanted", hanging.wanted())
                .put("choices", hanging.choices())
                .put("pins", hanging.pins())
                .put("used", hanging.used());
    }
}
