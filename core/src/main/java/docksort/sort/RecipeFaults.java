package docksort.sort;

import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.SoundForm;
import docksort.media.Wrapper;
import java.util.ArrayList;
import java.util.List;

/// Parts of a recipe that do not go together.
final class RecipeFaults {
    private static final int LONGEST_NAME = 60;
    private static final int MOST_BURN_INS = 8;

    private RecipeFaults() {}

    /// Why parts of a recipe do not go together; empty when they do.
    static List<String> of(
            String id,
            String name,
            CopyKind kind,
            Encoding encoding,
            Wrapper wrapper,
            Scaling scaling,
            BurnIns burnIns,
            String naming,
            boolean hardware,
            SoundForm sound) {
        var faults = new ArrayList<String>();
        if (!id.matches("[a-z0-9][a-z0-9-]{0,59}")) {
            faults.add("an id has small letters, digits and dashes, at most 60, was \"" + id + "\"");
        }
        if (name.isBlank() || name.length() > LONGEST_NAME || name.chars().anyMatch(Character::isISOControl)) {
            faults.add("a name is one line of 1 to " + LONGEST_NAME + " characters");
        }
        if (!encoding.fits(wrapper)) {
            faults.add(wrapper.label() + " does not take " + encoding.label());
        }
        if (wrapper == Wrapper.MP4 && sound.bits() != 0) {
            faults.add("sound in MP4 is compressed and has no bits a sample to choose");
        }
        if (wrapper == Wrapper.MP4 && sound.mix().streams().stream().anyMatch(channels -> channels > 2)) {
            faults.add("sound in MP4 is mixed to one or two channels a stream");
        }
        if (encoding.isSoundOnly()
                && (sound.mix().isEach() || sound.mix().streams().size() > 1)) {
            faults.add("a file of sound alone has one stream");
        }
        if (wrapper == Wrapper.MXF && sound.samplesPerSecond() != 0 && sound.samplesPerSecond() != 48_000) {
            faults.add("sound in MXF OP1a has 48000 samples a second");
        }
        if (encoding.isSoundOnly() && (!burnIns.isEmpty() || !(scaling instanceof Scaling.Full))) {
            faults.add("a recipe for sound alone has no raster and no burn-ins");
        }
        if (encoding.isRewrap() && (kind != CopyKind.FULL || !(scaling instanceof Scaling.Full))) {
            faults.add("what is taken over as it is makes a full copy of the same raster");
        }
        if (encoding.isSoundOnly() != (kind == CopyKind.SOUND)) {
            faults.add("sound alone is a copy of the kind sound, and nothing else is");
        }
        if (kind == CopyKind.FULL && scaling instanceof Scaling.PerSide) {
            faults.add("a full copy keeps the raster or fits the timeline; divided sides make a light copy");
        }
        if (burnIns.words().size() > MOST_BURN_INS) {
            faults.add("at most " + MOST_BURN_INS + " burn-ins");
        }
        if (burnIns.words().stream().map(BurnIn::at).distinct().count()
                < burnIns.words().size()) {
            faults.add("two burn-ins would lie on each other");
        }
        if (kind == CopyKind.FULL && !burnIns.isEmpty()) {
            faults.add("a full copy is graded and keyed on and has no burn-ins");
        }
        Naming.fault(naming).ifPresent(faults::add);
        if (hardware && encoding != Encoding.H264_LONG && encoding != Encoding.H264_INTRA) {
            faults.add("only H.264 has encoders of the graphics processor here");
        }
        return faults;
    }
}
