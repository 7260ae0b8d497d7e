package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Companion;
import docksort.arrival.PairSearch;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.link.SamePictures;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.run.PictureCheck;
import docksort.stock.CameraPairs;
import docksort.strain.Traits;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// Which small files are a camera's copies of which originals, by what proves it or by a person's word.
public final class Pairing {
    private final Catalogue catalogue;
    private final Inspector inspector;
    private final PictureCheck pictures;
    private final Settings settings;
    private final Roots roots;

    Pairing(Catalogue catalogue, Inspector inspector, PictureCheck pictures, Settings settings, Roots roots) {
        this.catalogue = catalogue;
        this.inspector = inspector;
        this.pictures = pictures;
        this.settings = settings;
        this.roots = roots;
    }

    /// Pairs of an arrival as they stand.
    public CameraPairs of(Arrival arrival) {
        List<Clip> clips = clips(arrival);
        Map<ClipId, List<WorkingCopy>> cameras = catalogue.copies().all().stream()
                .filter(WorkingCopy::isCameras)
                .collect(Collectors.groupingBy(WorkingCopy::clip));
        return CameraPairs.of(clips, cameras, catalogue.standIns()::of);
    }

    private List<Clip> clips(Arrival arrival) {
        return catalogue.clips().all().stream()
                .filter(clip -> clip.arrival().equals(arrival.id()))
                .toList();
    }

    /// Small files of an arrival that are listed as footage. Nothing is changed.
    public List<PairSearch.Pair> listedAsFootage(Arrival arrival, Cancellation cancellation)
            throws InterruptedException {
        return PairSearch.among(clips(arrival), new SamePictures(pictures, cancellation));
    }

    /// Makes copies of clips that are copies of others, as one change. What hangs on them, such as copies
    /// that were made of them, goes out of the project; all files stay.
    ///
    /// @return how many
    public int areCopies(List<PairSearch.Pair> pairs) {
        if (pairs.isEmpty()) {
            return 0;
        }
        Map<ClipId, Set<String>> taken = catalogue.copies().all().stream()
                .collect(Collectors.groupingBy(
                        WorkingCopy::clip, Collectors.mapping(WorkingCopy::id, Collectors.toCollection(HashSet::new))));
        List<Root> known = roots.all();
        var traits = new HashMap<Fingerprint, Traits>();
        pairs.forEach(pair -> Traits.of(pair.small().facts())
                .ifPresent(own -> traits.put(pair.small().fingerprint(), own)));
        catalogue.standIns().keep(traits);
        var copies = new ArrayList<WorkingCopy>();
        for (PairSearch.Pair pair : pairs) {
            Set<String> ids = taken.computeIfAbsent(pair.original().id(), _ -> new HashSet<>());
            WorkingCopy copy = copy(pair, WorkingCopy.camerasId(pair.original().id(), ids), known);
            ids.add(copy.id());
            copies.add(copy);
        }
        String what = pairs.size() == 1
                ? pairs.getFirst().small().name() + " is a copy of "
                        + pairs.getFirst().original().name()
                : pairs.size() + " small files are copies of their originals";
        catalogue
                .takenOut()
                .becomeCopies(pairs.stream().map(pair -> pair.small().id()).toList(), copies, known, what);
        return copies.size();
    }

    private static WorkingCopy copy(PairSearch.Pair pair, String id, List<Root> roots) {
        var file = pair.small().source().head();
        Root root = roots.stream()
                .filter(each -> !each.id().equals(Root.COPIES) && file.startsWith(each.path()))
                .findFirst()
                .orElseThrow();
        var companion = new Companion(
                pair.original().id(), file, pair.small().facts(), pair.small().fingerprint(), pair.proof());
        return WorkingCopy.byCamera(id, companion, pair.original().fingerprint(), root.id());
    }

    /// Says that a clip is a copy of another one.
    ///
    /// @throws InputRefused when it cannot be, because length, rate, timecode or shape speak against it
    public void isCopyOf(Clip small, Clip original) {
        Optional<String> why = small.source() instanceof ClipSource.SingleFile
                ? PairSearch.refusal(original, small)
                : Optional.of("it is more than one file");
        if (why.isPresent()) {
            throw new InputRefused(new Problem(
                    small.name() + " was not made a copy of " + original.name(),
                    why.get(),
                    "Nothing was changed.",
                    "Choose another original, or leave it as footage."));
        }
        areCopies(List.of(new PairSearch.Pair(small, original, "by hand; nothing of its facts speaks against it")));
    }

    /// Says that a file which was taken for a camera's copy is footage of its own.
    ///
    /// @throws InputRefused when it cannot be read now
    public void isFootage(WorkingCopy copy) throws InterruptedException {
        Arrival arrival = catalogue.arrivals().all().stream()
                .filter(each -> copy.file().startsWith(each.folder()))
                .findFirst()
                .orElseThrow(() -> refused(copy, "it lies in no arrival"));
        var source = new ClipSource.SingleFile(copy.file());
        if (!(inspector.inspect(source, settings.timelineRate(), new Cancellation())
                instanceof Inspection.Known known)) {
            throw refused(copy, "it cannot be read now");
        }
        try {
            var clip = new Clip(ClipId.fresh(), arrival.id(), source, known.facts(), ArrivalScan.fingerprint(source));
            catalogue
                    .takenOut()
                    .becomeFootage(
                            List.of(copy),
                            List.of(clip),
                            roots.forArrival(arrival.folder()),
                            clip.name() + " is footage");
        } catch (IOException e) {
            throw refused(copy, Causes.inWords(e));
        }
    }

    private static InputRefused refused(WorkingCopy copy, String why) {
        return new InputRefused(new Problem(
                copy.file() + " was not made footage",
                why,
                "Nothing was changed.",
                "Bring its volume back, then retry."));
    }
}
