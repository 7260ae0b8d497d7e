package docksort.desktop.stock;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.link.Adoption;
import docksort.link.NamePattern;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// What a look into a folder of copies says, and which of them can be taken over.
final class TakeOverModel {
    static final String SURE = "adopt-sure";
    static final String DOUBTFUL_TOO = "adopt-doubtful";

    private TakeOverModel() {}

    static TaskFindings of(Adoption adoption) {
        var lines = new ArrayList<TaskLine>();
        for (Adoption.Pair pair : adoption.pairs()) {
            Tone tone = switch (pair.level()) {
                case SURE -> Tone.GOOD;
                case DOUBTFUL -> Tone.LOOK;
                case REFUSED -> Tone.STOP;
            };
            lines.add(new TaskLine(
                    tone,
                    pair.level().label(),
                    adoption.folder().relativize(pair.file()).toString(),
                    pair.clip().name(),
                    pair.reason()));
        }
        adoption.unpaired()
                .forEach(file -> lines.add(new TaskLine(
                        Tone.PLAIN,
                        "no clip",
                        adoption.folder().relativize(file.file()).toString(),
                        "",
                        file.reason())));
        adoption.without()
                .forEach(clip -> lines.add(new TaskLine(
                        Tone.PLAIN,
                        "no copy",
                        "",
                        clip.name(),
                        clip.facts().findings().outOfReach().isPresent()
                                ? "no file here is a copy of it for certain, and none can be made here"
                                : "no file here is a copy of it: Sort plans one")));
        int sure = adoption.pairs(Adoption.Level.SURE).size();
        int doubtful = adoption.pairs(Adoption.Level.DOUBTFUL).size();
        var deeds = new ArrayList<Deed>();
        deeds.add(new Deed(
                SURE, sure == 1 ? "Take over the sure one" : "Take over the " + sure + " sure ones", true, sure > 0));
        if (doubtful > 0) {
            deeds.add(new Deed(
                    DOUBTFUL_TOO,
                    doubtful == 1
                            ? "The doubtful one too, on trust"
                            : "The " + doubtful + " doubtful ones too, on trust",
                    false,
                    true));
        }
        String words = sure + " sure, " + doubtful + " doubtful, "
                + adoption.pairs(Adoption.Level.REFUSED).size() + " refused, "
                + adoption.unpaired().size() + " without a clip; "
                + adoption.without().size() + " clips without a copy here";
        return new TaskFindings(words, lines, deeds);
    }

    /// @param deed [#SURE] or [#DOUBTFUL_TOO]
    static List<Adoption.Pair> taken(Adoption adoption, String deed) {
        List<Adoption.Pair> sure = adoption.pairs(Adoption.Level.SURE);
        return deed.equals(SURE)
                ? sure
                : Stream.concat(sure.stream(), adoption.pairs(Adoption.Level.DOUBTFUL).stream())
                        .toList();
    }

    /// What the field for patterns of names says after a look.
    static String learned(Adoption adoption) {
        return adoption.patterns().isEmpty()
                ? "No pattern was found: write one, for instance *_P"
                : "Found: "
                        + adoption.patterns().stream().map(NamePattern::label).collect(Collectors.joining("  "));
    }

    /// @param text patterns with blanks between them, without fault
    static List<NamePattern> patterns(String text) {
        return text.isBlank()
                ? List.of()
                : Stream.of(text.strip().split("\\s+", -1))
                        .map(NamePattern::parse)
                        .toList();
    }

    /// What speaks for and against one file.
    static Adoption of(Adoption.Pair pair) {
        Path folder = pair.file().getParent();
        return new Adoption(folder == null ? pair.file() : folder, List.of(), List.of(pair), List.of(), List.of());
    }

    static TaskFindings done(int count) {
        return TaskFindings.done(count + (count == 1 ? " copy" : " copies") + " taken over. Undo takes "
                + (count == 1 ? "it" : "them") + " back.");
    }
}
