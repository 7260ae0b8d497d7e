package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.MissingCompanions;
import docksort.arrival.ScanListener;
import docksort.arrival.ScanResult;
import docksort.arrival.Stamp;
import docksort.arrival.Unreadable;
import docksort.catalogue.ArrivalStore;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.Inspector;
import docksort.files.Mounts;
import docksort.link.SamePictures;
import docksort.media.Described;
import docksort.media.FrameRate;
import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.run.PictureCheck;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// What came in: looked at, looked at again, watched, taken out.
public final class Arrivals {
    private final Catalogue catalogue;
    private final Inspector inspector;
    private final PictureCheck pictures;
    private final Settings settings;
    private final Roots roots;
    private final InstantSource clock;

    Arrivals(
            Catalogue catalogue,
            Inspector inspector,
            PictureCheck pictures,
            Settings settings,
            Roots roots,
            InstantSource clock) {
        this.catalogue = catalogue;
        this.inspector = inspector;
        this.pictures = pictures;
        this.settings = settings;
        this.roots = roots;
        this.clock = clock;
    }

    public List<Arrival> all() {
        return catalogue.arrivals().all();
    }

    /// Looks into a folder and takes what is in it into the project. A folder that is already in the
    /// project, lies in one that is, or holds one, is refused.
    public ScanResult add(Path wanted, ScanListener listener, Cancellation cancellation) throws InterruptedException {
        Path place = realFolder(wanted);
        refuseKnown(place);
        Root root = roots.forArrival(place);
        var arrival = new Arrival(ArrivalId.fresh(), String.valueOf(place.getFileName()), place, clock.instant());
        catalogue.arrivals().begin(arrival, root);
        var keeper = new ClipKeeper(catalogue, root, listener);
        ScanResult result = scanner(cancellation)
                .scan(arrival.id(), place, ArrivalScan.Before.NOTHING, settings.timelineRate(), keeper, cancellation);
        keeper.flush();
        int clips = result.clips().size();
        catalogue
                .arrivals()
                .endScan(
                        arrival,
                        root,
                        result,
                        Optional.of("Added " + arrival.name() + ": " + clips + (clips == 1 ? " clip" : " clips")
                                + (result.cancelled() ? ", stopped before the end" : "")),
                        true);
        return result;
    }

    private ArrivalScan scanner(Cancellation cancellation) {
        return new ArrivalScan(
                inspector,
                new SamePictures(pictures, cancellation),
                Math.max(2, Runtime.getRuntime().availableProcessors()));
    }

    /// Looks at an arrival's folder again. Files whose size and time stamp are as before are not opened.
    ///
    /// @param settled heads of new sources to take in, or empty for all that is there
    public ScanResult lookAgain(
            Arrival arrival, Optional<Set<Path>> settled, ScanListener listener, Cancellation cancellation)
            throws InterruptedException {
        ArrivalStore.Seen seen = catalogue.arrivals().seen(arrival.id());
        ArrivalScan.Before before = before(catalogue, arrival, seen);
        if (settled.isEmpty() && seen.complete()) {
            Optional<ScanResult> asBefore = ArrivalScan.asBefore(arrival.folder(), before, seen.asides());
            if (asBefore.isPresent()) {
                return asBefore.get(); // nothing to open, nothing to write
            }
        }
        Root root = roots.forArrival(arrival.folder());
        var keeper = new ClipKeeper(catalogue, root, listener);
        FrameRate rate = settings.timelineRate();
        ScanResult result = settled.isPresent()
                ? scanner(cancellation)
                        .scanSettled(arrival.id(), arrival.folder(), before, settled.get(), rate, keeper, cancellation)
                : scanner(cancellation).scan(arrival.id(), arrival.folder(), before, rate, keeper, cancellation);
        keeper.flush();
        int changed = result.clips().size()
                + result.gone().size()
                + result.unreadable().size();
        catalogue
                .arrivals()
                .endScan(
                        arrival,
                        root,
                        result,
                        changed == 0
                                ? Optional.empty()
                                : Optional.of("Looked at " + arrival.name() + " again: "
                                        + result.clips().size() + " new or changed, "
                                        + result.gone().size() + " gone"),
                        false);
        return result;
    }

    private static ArrivalScan.Before before(Catalogue catalogue, Arrival arrival, ArrivalStore.Seen seen) {
        return new ArrivalScan.Before(
                seen.stamps(),
                () -> catalogue.clips().all().stream()
                        .filter(clip -> clip.arrival().equals(arrival.id()))
                        .collect(Collectors.toMap(clip -> clip.source().head(), clip -> clip, (one, _) -> one)));
    }

    /// New sources of a watched arrival, by directory listing alone.
    public Map<Path, Stamp> news(Arrival arrival) {
        return ArrivalScan.news(
                arrival.folder(),
                before(catalogue, arrival, catalogue.arrivals().seen(arrival.id())));
    }

    /// Whether an arrival's folder is there, on a volume that answers.
    public boolean isThere(Arrival arrival) {
        return Mounts.HERE.answers(arrival.folder()) && Files.isDirectory(arrival.folder());
    }

    public Set<ArrivalId> watched() {
        return Set.copyOf(catalogue.arrivals().watched());
    }

    public void watch(Arrival arrival, boolean on) {
        catalogue.arrivals().watch(arrival.id(), on, (on ? "Watching " : "No longer watching ") + arrival.name());
    }

    /// Arrivals whose scan was broken off, for instance by a power cut.
    public List<Arrival> brokenOff() {
        Set<ArrivalId> ids = Set.copyOf(catalogue.arrivals().incomplete());
        return catalogue.arrivals().all().stream()
                .filter(arrival -> ids.contains(arrival.id()))
                .toList();
    }

    /// Says how to read clips that state no frame rate.
    public void readAt(List<Clip> clips, FrameRate rate) {
        String subject = clips.size() == 1 ? clips.getFirst().name() : clips.size() + " clips";
        catalogue
                .clips()
                .readAt(
                        clips.stream().map(Clip::id).toList(),
                        Optional.of(rate),
                        subject + " read at " + rate.label() + " fps");
    }

    /// Says of clips whose picture cannot be decoded here what cannot be read from them. What was said
    /// before and is not said now stays.
    ///
    /// @throws InputRefused when one of them can be decoded: it is taken as it is
    public void describe(List<Clip> clips, Described said) {
        String subject = clips.size() == 1 ? clips.getFirst().name() : clips.size() + " clips";
        clips.stream()
                .filter(clip -> clip.facts().findings().outOfReach().isEmpty())
                .findFirst()
                .ifPresent(clip -> {
                    throw new InputRefused(new Problem(
                            "Nothing was said of " + clip.name(),
                            "its picture can be decoded here, and what it states is believed",
                            "Nothing was changed.",
                            "Say it of recordings that are out of reach only."));
                });
        Map<Described, List<ClipId>> all = clips.stream()
                .collect(Collectors.groupingBy(
                        clip -> said.or(catalogue.clips().described(clip.id())),
                        LinkedHashMap::new,
                        Collectors.mapping(Clip::id, Collectors.toList())));
        catalogue.clips().describe(all, subject + " described: " + said.label());
    }

    private static Path realFolder(Path wanted) {
        if (!Files.isDirectory(wanted)) {
            throw new InputRefused(new Problem(
                    "Cannot add " + wanted,
                    Files.exists(wanted) ? "it is not a folder" : "it is not there",
                    "Nothing was changed.",
                    "Choose the folder of a card, a drive or a recording."));
        }
        try {
            return wanted.toRealPath();
        } catch (IOException e) {
            throw new InputRefused(
                    new Problem(
                            "Cannot add " + wanted,
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Check its permissions."),
                    e);
        }
    }

    private void refuseKnown(Path place) {
        if (place.getParent() == null) {
            throw new InputRefused(new Problem(
                    "Cannot add " + place, "it is a whole volume", "Nothing was changed.", "Choose a folder on it."));
        }
        for (Arrival known : catalogue.arrivals().all()) {
            if (place.startsWith(known.folder()) || known.folder().startsWith(place)) {
                String how = place.equals(known.folder())
                        ? "it is in the project already"
                        : "it overlaps the arrival " + known.folder();
                throw new InputRefused(
                        new Problem("Cannot add " + place, how, "Nothing was changed.", "Choose another folder."));
            }
        }
        Path copies = roots.copies().path();
        if (place.startsWith(copies) || copies.startsWith(place)) {
            throw new InputRefused(new Problem(
                    "Cannot add " + place,
                    "it holds the project's copies (" + copies + ")",
                    "Nothing was changed.",
                    "Add the folder of the originals."));
        }
    }

    public List<Unreadable> unreadable() {
        return catalogue.arrivals().unreadable(false);
    }

    public Map<ArrivalId, Integer> asides() {
        return catalogue.arrivals().asides();
    }

    /// Cards that came without the folder of the camera's own small files, where a sibling has one.
    public List<MissingCompanions.Hint> missingCompanions(List<Clip> clips) {
        Map<ClipId, Path> files = new HashMap<>();
        clips.forEach(clip -> files.put(clip.id(), clip.source().head()));
        Map<Path, Path> companions = new HashMap<>();
        catalogue.copies().all().stream()
                .filter(WorkingCopy::isAdopted)
                .forEach(copy -> Optional.ofNullable(files.get(copy.clip()))
                        .ifPresent(original -> companions.put(original, copy.file())));
        return MissingCompanions.find(List.copyOf(files.values()), companions);
    }
}
