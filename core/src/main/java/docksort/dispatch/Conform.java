package docksort.dispatch;

import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.dispatch.ClipIndex.Found;
import docksort.dispatch.ConformedEvent.Doubt;
import docksort.dispatch.ConformedEvent.Way;
import docksort.media.ClipSource;
import docksort.media.FrameRange;
import docksort.media.Reels;
import docksort.media.VideoFacts;
import docksort.stock.StockLine;
import docksort.timeline.MediaPath;
import docksort.timeline.Mention;
import docksort.timeline.OtioTimeline;
import docksort.timeline.SourceUse;
import docksort.timeline.TimelineDocument;
import docksort.timeline.TimelineEvent;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Every event of a timeline with the recording it uses. What several things point to is found; what
/// could be two recordings, or only half fits, is shown as doubtful and not guessed, until somebody says
/// which it is.
///
/// The order of trust: where the reference leads (on this or another workstation), what somebody said,
/// what further references lead to, the content, folder and file name together, name and frames, reel and
/// frames.
public final class Conform {
    private final TimelineDocument document;
    private final Places places;
    private final MediaPath folder;
    private final ClipIndex index;
    private final Map<String, ClipId> said;
    private final Map<ClipId, StockLine> lines;
    private final Map<Path, String> contents = new HashMap<>();
    private final List<ConformedEvent> events = new ArrayList<>();
    private Optional<UsedFrames.Counting> usual = Optional.empty();

    private Conform(
            TimelineDocument document,
            ClipIndex index,
            Map<ClipId, StockLine> lines,
            Places places,
            Map<String, ClipId> said) {
        this.document = document;
        this.places = places;
        this.said = said;
        Path parent = document.file().getParent();
        this.folder = MediaPath.of(parent == null ? document.file() : parent);
        this.index = index;
        this.lines = lines;
        List<TimelineEvent> all = document.events();
        all.forEach(event -> events.add(conformed(event)));
        if (events.stream().anyMatch(Conform::isCountedEitherWay)) {
            usual = usualCounting();
            if (usual.isPresent()) {
                events.clear();
                all.forEach(event -> events.add(conformed(event)));
            }
        }
    }

    private static boolean isCountedEitherWay(ConformedEvent event) {
        return event.doubts().stream().anyMatch(doubt -> doubt.kind() == Doubt.Kind.RATE);
    }

    /// A list counts all its source timecode alike; what one event shows of that holds for those that do
    /// not show it (common practice, no source). Empty where they contradict each other.
    private Optional<UsedFrames.Counting> usualCounting() {
        List<UsedFrames.Counting> shown = events.stream()
                .flatMap(event -> event.clip().stream()
                        .flatMap(clip -> UsedFrames.counting(event.event().use(), clip).stream()))
                .distinct()
                .toList();
        return shown.size() == 1 ? Optional.of(shown.getFirst()) : Optional.empty();
    }

    /// @param stock the project's clips and copies
    /// @param said which recording somebody said a mention means, by [Mention#key]
    public static Conform of(
            TimelineDocument document, List<StockLine> stock, Places places, Map<String, ClipId> said) {
        Map<ClipId, StockLine> lines = HashMap.newHashMap(stock.size());
        stock.forEach(line -> lines.put(line.clip().id(), line));
        return new Conform(document, new ClipIndex(stock), lines, places, said);
    }

    /// Another document, or this one as it stands now, with the same recordings.
    public Conform with(TimelineDocument other) {
        return new Conform(other, index, lines, places, said);
    }

    public TimelineDocument document() {
        return document;
    }

    public List<ConformedEvent> events() {
        return List.copyOf(events);
    }

    /// The frames that the timeline needs of each recording, one range for each event.
    public Map<ClipId, List<FrameRange>> needed() {
        Map<ClipId, List<FrameRange>> needed = new LinkedHashMap<>();
        for (ConformedEvent event : events) {
            event.clip()
                    .ifPresent(clip -> event.needed()
                            .ifPresent(range -> needed.computeIfAbsent(clip.id(), _ -> new ArrayList<>())
                                    .add(range)));
        }
        return needed;
    }

    /// Whether an address leads to the original of a clip.
    boolean leadsToOriginal(String address, Clip clip) {
        return reached(address)
                .or(() -> byFolderAndName(address))
                .filter(found -> found.standing() instanceof Standing.OnOriginal
                        && found.clip().id().equals(clip.id()))
                .isPresent();
    }

    private ConformedEvent conformed(TimelineEvent event) {
        Mention media = event.media();
        if (media.isEmpty()) {
            return new ConformedEvent(
                    event,
                    new Standing.WithoutMedia(),
                    Optional.empty(),
                    Way.NONE,
                    "",
                    List.of(),
                    Optional.empty(),
                    Optional.empty(),
                    List.of());
        }
        Optional<Found> reached = reached(media.address());
        if (reached.isPresent()) {
            return found(event, reached.get(), Way.REFERENCE, "its reference leads there");
        }
        Optional<StockLine> chosen = Optional.ofNullable(said.get(media.key())).map(lines::get);
        if (chosen.isPresent()) {
            return found(event, ofOriginal(chosen.get()), Way.ELSE, "somebody said so");
        }
        for (String other : media.others()) {
            Optional<Found> beside = reached(other);
            if (beside.isPresent()) {
                return found(event, ofOriginal(beside.get().line()), Way.ELSE, "another of its references leads there");
            }
        }
        return byContent(event)
                .or(() -> byFolderAndName(media.address())
                        .filter(found -> fits(event, found))
                        .map(found -> found(event, found, Way.FOLDER_AND_NAME, "folder and file name are the same")))
                .orElseGet(() -> byNameOrReel(event));
    }

    private Optional<Found> reached(String address) {
        for (MediaPath path : places.readings(address, folder)) {
            Optional<Found> found = index.at(path);
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    private Optional<Found> byFolderAndName(String address) {
        for (MediaPath path : places.readings(address, folder)) {
            List<Found> named = index.withFolderAndName(path);
            if (named.size() == 1) {
                return Optional.of(named.getFirst());
            }
        }
        return Optional.empty();
    }

    /// A file that is there and not the project's may be a twin of one that is. One that is another
    /// recording is not found by its name.
    private Optional<ConformedEvent> byContent(TimelineEvent event) {
        String stated = event.media().fingerprint();
        if (!stated.isEmpty() && index.ofContent(stated).size() == 1) {
            StockLine line = index.ofContent(stated).getFirst();
            return Optional.of(found(event, ofOriginal(line), Way.ELSE, "it states the recording it was made from"));
        }
        for (MediaPath path : places.readings(event.media().address(), folder)) {
            Optional<Path> there = path.local().filter(Files::isRegularFile);
            if (there.isPresent()) {
                List<StockLine> twins = index.ofContent(contents.computeIfAbsent(there.get(), Conform::content));
                return Optional.of(
                        twins.size() == 1
                                ? found(event, ofOriginal(twins.getFirst()), Way.ELSE, "a file of the same content")
                                : unsure(
                                        event,
                                        new Standing.Foreign(),
                                        "its file is there and is not in the project",
                                        List.of()));
            }
        }
        return Optional.empty();
    }

    private static String content(Path file) {
        try {
            return ArrivalScan.fingerprint(new ClipSource.SingleFile(file)).toString();
        } catch (IOException e) {
            return "unreadable";
        }
    }

    private ConformedEvent byNameOrReel(TimelineEvent event) {
        Mention media = event.media();
        List<StockLine> named = media.address().isEmpty() ? List.of() : index.named(media.address());
        if (named.isEmpty() && !media.clipName().isEmpty()) {
            named = index.named(media.clipName());
            if (!named.isEmpty() && !media.address().isEmpty()) {
                // The event has a recording's name and leads to another file: which of the two is meant?
                return unsure(
                        event, new Standing.Doubtful(), "it has a recording's name and leads to another file", named);
            }
        }
        List<StockLine> ofReel = media.reel().isEmpty() ? List.of() : index.ofReel(media.reel());
        if (named.isEmpty() && ofReel.isEmpty()) {
            return unsure(event, new Standing.Foreign(), "no recording of the project has its name or reel", List.of());
        }
        boolean byName = !named.isEmpty();
        List<StockLine> candidates = byName ? named : ofReel;
        List<StockLine> fitting = candidates.stream()
                .filter(line -> fits(event, ofOriginal(line)) && !contradictsReel(media, line))
                .toList();
        boolean timeless = event.use() instanceof SourceUse.Whole;
        if (fitting.size() == 1 && (byName || !timeless)) {
            return found(
                    event,
                    ofOriginal(fitting.getFirst()),
                    Way.ELSE,
                    byName ? "name and frames fit" : "reel and timecode fit");
        }
        String what = byName ? "name" : "reel";
        String why = fitting.isEmpty()
                ? candidates.size() == 1
                        ? "a recording has its " + what + ", but not its frames" + (byName ? " or reel" : "")
                        : candidates.size() + " recordings have its " + what + ", none its frames"
                : fitting.size() == 1
                        ? "a recording has its reel, and nothing says which frames"
                        : fitting.size() + " recordings have its " + what + " and frames";
        return unsure(event, new Standing.Doubtful(), why, fitting.isEmpty() ? candidates : fitting);
    }

    private static boolean contradictsReel(Mention media, StockLine line) {
        if (media.reel().isEmpty()) {
            return false;
        }
        Optional<String> own = line.clip().facts().reel();
        return own.isPresent() && !sameReel(own.get(), media.reel());
    }

    private static boolean sameReel(String one, String other) {
        String a = Reels.key(one);
        String b = Reels.key(other);
        boolean cutOff = (b.length() == 8 && a.startsWith(b)) || (a.length() == 8 && b.startsWith(a));
        return cutOff || a.equals(b);
    }

    private boolean fits(TimelineEvent event, Found found) {
        Optional<VideoFacts> video = found.clip().facts().video();
        if (video.isEmpty()) {
            return event.kind() == TimelineEvent.Kind.SOUND
                    || !found.clip().facts().audio().isEmpty();
        }
        long frames = video.get().frames().count();
        return UsedFrames.of(event.use(), found.clip(), found.offset(), usual)
                .filter(used -> used.lacking(frames).isEmpty())
                .isPresent();
    }

    private static Found ofOriginal(StockLine line) {
        return new Found(line, new Standing.OnOriginal(), 0);
    }

    /// Whether an address that is more than a name leads to no file. A list of edits may have names alone.
    private boolean leadsNowhere(String address) {
        boolean isPlace = document instanceof OtioTimeline || address.contains("/") || address.contains("\\");
        return isPlace
                && places.readings(address, folder).stream()
                        .flatMap(path -> path.local().stream())
                        .noneMatch(Files::isRegularFile);
    }

    private static ConformedEvent unsure(
            TimelineEvent event, Standing standing, String why, List<StockLine> candidates) {
        return new ConformedEvent(
                event,
                standing,
                Optional.empty(),
                Way.NONE,
                why,
                candidates,
                Optional.empty(),
                Optional.empty(),
                List.of());
    }

    private ConformedEvent found(TimelineEvent event, Found found, Way way, String how) {
        var doubts = new ArrayList<Doubt>();
        StockLine line = found.line();
        if (!line.presence().isOnline()) {
            String note = line.presence().note();
            doubts.add(new Doubt(
                    Doubt.Kind.NOT_THERE,
                    "the original is " + line.presence().state().label() + (note.isEmpty() ? "" : ": " + note)));
        }
        if (found.standing() instanceof Standing.OnCopy(var _, var id)) {
            line.copies().stream()
                    .filter(copy -> copy.id().equals(id) && copy.place().holes())
                    .findFirst()
                    .ifPresent(copy -> doubts.add(new Doubt(
                            Doubt.Kind.HOLES,
                            "its copy has holes of a damaged original"
                                    + (copy.awaitsAcceptance() ? ", and nobody has accepted that" : ""))));
        }
        String address = event.media().address();
        if (way == Way.ELSE && !said.containsKey(event.media().key()) && leadsNowhere(address)) {
            doubts.add(new Doubt(
                    Doubt.Kind.LEADS_NOWHERE,
                    (address.isEmpty() ? "it leads to no file" : "it leads to " + address + ", which is not there")
                            + "; the original was found because " + how));
        }
        Optional<UsedFrames> frames = UsedFrames.of(event.use(), found.clip(), found.offset(), usual);
        Optional<VideoFacts> video = found.clip().facts().video();
        long have = video.map(its -> its.frames().count()).orElse(0L);
        Optional<UsedFrames> needed = frames.map(
                used -> video.map(its -> used.with(event, its.rate())).orElse(used));
        frames.flatMap(UsedFrames::rateConflict).ifPresent(words -> doubts.add(new Doubt(Doubt.Kind.RATE, words)));
        needed.filter(used -> used.rateConflict().isEmpty())
                .flatMap(used -> used.lacking(have))
                .ifPresent(words -> doubts.add(new Doubt(Doubt.Kind.OUTSIDE, words)));
        return new ConformedEvent(
                event,
                found.standing(),
                Optional.of(line),
                way,
                how,
                List.of(),
                frames.flatMap(used -> used.within(have)),
                needed.flatMap(used -> used.within(have)),
                doubts);
    }
}
