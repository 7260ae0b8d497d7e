package docksort.project;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Pin;
import docksort.catalogue.Root;
import docksort.catalogue.Undo;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.Addressing;
import docksort.dispatch.AscMhl;
import docksort.dispatch.Conform;
import docksort.dispatch.CutList;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.dispatch.DepartureReport;
import docksort.dispatch.Parcel;
import docksort.dispatch.Places;
import docksort.dispatch.PullList;
import docksort.dispatch.Switching;
import docksort.dispatch.TimelineComparison;
import docksort.files.Checksum;
import docksort.files.Documents;
import docksort.media.FrameRange;
import docksort.media.Raster;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.run.ProgramVersion;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.strain.TimelineFormat;
import docksort.timeline.MediaPath;
import docksort.timeline.TimelineDocument;
import docksort.timeline.TimelineEvent;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.function.BiConsumer;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;

/// The project's timelines: opening, conforming, switching, checking, sending away. Methods block while
/// they work.
public final class DispatchRoom {
    private static final String KEPT = "timelines";
    private static final String LAST = "timeline.file";
    private static final String DELIVERY = "delivery.raster";
    private static final long USUAL_HANDLES = 24;

    private final Catalogue catalogue;
    private final Plans plans;
    private final InstantSource clock;
    private final Path folder;
    private final Supplier<TimelineFormat> format;
    private final Supplier<String> projectName;
    private final Supplier<List<StockLine>> freshStock;

    DispatchRoom(
            Catalogue catalogue,
            Plans plans,
            InstantSource clock,
            Path folder,
            Supplier<TimelineFormat> format,
            Supplier<String> projectName,
            Supplier<List<StockLine>> freshStock) {
        this.catalogue = catalogue;
        this.plans = plans;
        this.clock = clock;
        this.folder = folder;
        this.format = format;
        this.projectName = projectName;
        this.freshStock = freshStock;
    }

    // Timelines

    /// Opens a timeline and remembers it as the project's last.
    ///
    /// @throws InputRefused when it cannot be read
    public TimelineDocument open(Path file) {
        TimelineDocument document = read(file);
        catalogue.settings().put(LAST, document.file().toString());
        return document;
    }

    private TimelineDocument read(Path file) {
        return TimelineDocument.open(file, format.get().rate());
    }

    public Optional<Path> last() {
        return catalogue.settings().get(LAST).map(Path::of);
    }

    /// @param stock the project's clips and copies
    public Conform conform(TimelineDocument document, List<StockLine> stock) {
        return Conform.of(document, stock, places(), catalogue.timelines().said());
    }

    /// Keeps that an event means a recording, and every event that mentions it alike.
    public void say(TimelineEvent event, Clip clip) {
        catalogue.timelines().say(event.media().key(), clip.id(), event.name() + " means " + clip.name());
    }

    /// What is otherwise in a newer version.
    ///
    /// @param older a timeline's file
    public TimelineComparison compare(Path older, Conform newer) {
        return TimelineComparison.of(newer.with(read(older)).events(), newer.events());
    }

    /// Frames that range copies hold before and after what a timeline uses, and that a departure asks for.
    public long handles() {
        return catalogue.settings().get("handles").map(Long::parseLong).orElse(USUAL_HANDLES);
    }

    /// Keeps what a timeline uses, for range copies.
    ///
    /// @param handles frames before and after
    public void useOf(Conform conform, long handles) {
        if (handles < 0 || handles > 100_000) {
            throw new InputRefused(new Problem(
                    handles + " frames are no handles", "", "Nothing was changed.", "Write a number from 0 on."));
        }
        catalogue.settings().put("handles", Long.toString(handles));
        plans.use(conform.needed(), handles);
    }

    // Serving

    /// Gives every event the file that serves it, for this workstation and in the manner of what stands
    /// there.
    public Switching.Outcome switchTo(Conform conform, ServingOrder order) {
        Switching.Outcome outcome = Switching.carryOut(
                conform,
                order,
                catalogue.timelines().pins(),
                Addressing.AS_IT_STANDS,
                folderOf(conform.document().file()));
        boolean onOriginals = outcome.copies().isEmpty();
        if (onOriginals && !conform.document().reviewMark().isEmpty()) {
            conform.document().markReview(""); // it left for a review on copies, and is on none any more
        }
        catalogue.copyChanges().served(outcome.copies(), clock.instant());
        List<ClipId> onCopies =
                outcome.copies().stream().map(WorkingCopy::clip).distinct().toList();
        Map<ClipId, Clip> clips = new HashMap<>();
        conform.events().forEach(event -> event.clip().ifPresent(clip -> clips.put(clip.id(), clip)));
        catalogue
                .timelines()
                .keepForms(
                        DepartureCheck.formsOf(onCopies.stream().map(clips::get).toList()));
        return outcome;
    }

    public List<Pin> pins() {
        return catalogue.timelines().pins();
    }

    /// Pins a clip, or the use of some of its frames, to an order.
    ///
    /// @param frames empty for all of the clip
    /// @param order empty to take the pin away
    public void pin(Clip clip, Optional<FrameRange> frames, Optional<ServingOrder> order) {
        var pins = new ArrayList<>(pins());
        pins.removeIf(pin -> pin.clip().equals(clip.id()) && pin.frames().equals(frames));
        order.ifPresent(to -> pins.add(new Pin(clip.id(), frames, to.id())));
        String what = clip.name() + frames.map(range -> ", " + range.inWords()).orElse("");
        catalogue
                .timelines()
                .pin(pins, order.map(to -> what + " is pinned to " + to.label()).orElse("Took the pin from " + what));
    }

    // Writing

    /// Saves a timeline as it stands, also into another folder: relative addresses are written anew from
    /// there.
    public void saveAs(Conform conform, Path target) {
        Path from = folderOf(conform.document().file());
        Path to = folderOf(target);
        TimelineDocument saved = conform.document();
        if (!from.equals(to)) {
            saved = saved.copy();
            Switching.readdress(conform.with(saved), Addressing.ELSEWHERE, to);
        }
        save(saved, target);
    }

    /// Replaces a file by a timeline. What was there before is kept and can be put back.
    public void save(TimelineDocument document, Path target) {
        Path absolute = target.toAbsolutePath().normalize();
        Optional<Path> kept = keep(absolute);
        document.save(absolute);
        String what = "Saved " + absolute.getFileName();
        if (kept.isPresent()) {
            catalogue.timelines().replaced(absolute.toString(), kept.get().toString(), sum(absolute), what);
        } else {
            catalogue.activity().write(what);
        }
    }

    private Optional<Path> keep(Path file) {
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        Path kept = Documents.ensureFolder(folder.resolve(KEPT))
                .resolve(UUID.randomUUID().toString());
        Documents.replace(kept, Documents.read(file));
        return Optional.of(kept);
    }

    /// Puts a timeline's file back before its undo is noted.
    ///
    /// @throws InputRefused when another program has changed the file since
    void beforeUndo(Undo undo) {
        if (undo instanceof Undo.TimelineReplaced(var file, var kept, var written)) {
            Path target = Path.of(file);
            if (!sum(target).equals(written)) {
                throw new InputRefused(new Problem(
                        "The timeline was not put back: " + target,
                        "it was changed or moved since it was saved",
                        "It is as it was. What it was before is kept in " + kept + ".",
                        "Copy that file where it is needed."));
            }
            Documents.replace(target, Documents.read(Path.of(kept)));
        }
    }

    private static String sum(Path file) {
        try {
            return Checksum.XXH64.of(file, () -> false).orElse("");
        } catch (IOException e) {
            return "";
        }
    }

    /// One track as a CMX 3600 edit list.
    ///
    /// @return what the list could not hold
    public List<String> writeEditList(Conform conform, String track, Path target) {
        CutList list = CutList.of(conform, track, format.get().rate());
        if (!String.valueOf(target.getFileName())
                .toLowerCase(java.util.Locale.ROOT)
                .endsWith(".edl")) {
            throw new InputRefused(new Problem(
                    "The edit list was not written as " + target,
                    "its name must end with .edl",
                    "Nothing was written.",
                    "Choose another name."));
        }
        Documents.replace(target, list.text().getBytes(StandardCharsets.UTF_8));
        catalogue
                .activity()
                .write("Wrote track " + track + " of " + conform.document().name() + " as " + target.getFileName());
        return list.left();
    }

    // Workstations

    /// The project's roots with their paths here and elsewhere.
    public Places places() {
        Map<String, Map<String, MediaPath>> elsewhere = new HashMap<>();
        for (List<String> row : catalogue.roots().pathsElsewhere()) {
            if (!row.get(1).equals(catalogue.roots().workstation())) {
                MediaPath.ofWorkstation(row.get(2))
                        .ifPresent(path -> elsewhere
                                .computeIfAbsent(row.get(0), _ -> new HashMap<>())
                                .put(row.get(1), path));
            }
        }
        return new Places(catalogue.roots().all().stream()
                .map(root -> new Places.Place(
                        root.name(), MediaPath.of(root.path()), elsewhere.getOrDefault(root.id(), Map.of())))
                .toList());
    }

    /// The name this workstation's paths are kept under.
    public String workstation() {
        return catalogue.roots().workstation();
    }

    /// Says where another workstation sees a root; an empty path takes that back.
    ///
    /// @throws InputRefused when the path is none from a root of some system
    public void placeElsewhere(Root root, String workstation, String path) {
        String name = workstation.strip();
        String where = path.strip();
        if (name.isEmpty() || name.equals(catalogue.roots().workstation())) {
            throw new InputRefused(new Problem(
                    "No path was kept for " + (name.isEmpty() ? "a workstation without a name" : name),
                    name.isEmpty() ? "" : "that is this workstation",
                    "Nothing was changed.",
                    name.isEmpty() ? "Give the workstation a name." : "Point the root elsewhere with relink instead."));
        }
        if (!where.isEmpty() && MediaPath.ofWorkstation(where).isEmpty()) {
            throw new InputRefused(new Problem(
                    "No path was kept for " + name,
                    where + " does not begin at a drive, a share or /",
                    "Nothing was changed.",
                    "Write it as that workstation shows it, such as E:\\Footage, \\\\server\\share or /mnt/footage."));
        }
        catalogue.roots().placeElsewhere(root, name, where);
    }

    // Departure

    /// Raster of what is delivered, empty until somebody has said it. It is a setting of its own: a
    /// timeline that is made smaller for cutting must not take it along.
    public Optional<Raster> delivery() {
        return catalogue.settings().get(DELIVERY).map(Raster::parse);
    }

    public void deliver(Raster raster) {
        catalogue.settings().change(DELIVERY, raster.width() + "x" + raster.height(), "The delivery has " + raster);
    }

    /// @param sums whether every file is read whole for its checksum
    public DepartureCheck check(
            Conform conform,
            Purpose purpose,
            boolean sums,
            BiConsumer<Integer, Integer> progress,
            BooleanSupplier cancelled) {
        return DepartureCheck.of(conform, purpose, ground(sums), progress, cancelled);
    }

    private DepartureCheck.Ground ground(boolean sums) {
        return new DepartureCheck.Ground(
                catalogue.timelines().forms(), format.get().raster(), delivery(), handles(), sums);
    }

    /// Where a timeline goes and who answers for it.
    ///
    /// @param signedBy name of the person
    /// @param override why it leaves although the check does not pass; empty where it must pass
    public record Departure(Path target, Addressing addressing, String signedBy, Optional<String> override) {}

    /// Lets a checked timeline leave, and only as it was checked: it, and a report as HTML and JSON
    /// beside it, are written together or not at all. One for a review says so in its name, in itself and
    /// in its report.
    ///
    /// @throws InputRefused when the check does not pass and nobody answers for it, when anything that it
    ///     looked at has changed since, or a file has no path where it goes
    public DepartureReport depart(TimelineDocument document, DepartureCheck check, Departure departure) {
        refuse(check, departure);
        Conform conform = conform(document, freshStock.get());
        check.changesUntil(conform, ground(false)).ifPresent(changes -> {
            throw new InputRefused(new Problem(
                    "The timeline does not leave",
                    "changed since it was checked: " + changes,
                    "Nothing was written.",
                    "Check it again."));
        });
        Path target =
                named(departure.target(), check.purpose()).toAbsolutePath().normalize();
        TimelineDocument leaving = document.copy();
        if (check.purpose() == Purpose.REVIEW) {
            leaving.markReview("on copies, for a review; not for finishing");
        }
        readdress(conform.with(leaving), departure, target);
        leaving.refuseAs(target);
        byte[] bytes = leaving.bytes();
        var report = new DepartureReport(
                projectName.get(),
                target,
                Checksum.XXH64.of(bytes),
                clock.instant(),
                departure.signedBy().strip(),
                check.passes() ? Optional.empty() : departure.override(),
                check);
        Optional<Path> kept = keep(target);
        var files = new LinkedHashMap<Path, byte[]>();
        files.put(Path.of(target + ".departure.html"), report.html().getBytes(StandardCharsets.UTF_8));
        files.put(Path.of(target + ".departure.json"), report.json().getBytes(StandardCharsets.UTF_8));
        files.put(target, bytes);
        Documents.replaceTogether(files);
        leaving.wasWritten(target);
        String what = target.getFileName() + " left for " + check.purpose().label() + ", signed by "
                + departure.signedBy().strip() + ": " + report.result()
                + report.override().map(reason -> " (" + reason + ")").orElse("");
        if (kept.isPresent()) {
            catalogue.timelines().replaced(target.toString(), kept.get().toString(), report.timelineSum(), what);
        } else {
            catalogue.activity().write(what);
        }
        return report;
    }

    private static void readdress(Conform leaving, Departure departure, Path target) {
        boolean here = departure.addressing().equals(Addressing.AS_IT_STANDS);
        Switching.Outcome outcome =
                Switching.readdress(leaving, here ? Addressing.ELSEWHERE : departure.addressing(), folderOf(target));
        if (!outcome.unreachable().isEmpty()) {
            throw new InputRefused(new Problem(
                    "The timeline was not written for "
                            + departure.addressing().workstation().orElse("another place"),
                    "it has no path for " + outcome.unreachable().getFirst()
                            + (outcome.unreachable().size() > 1
                                    ? " and " + (outcome.unreachable().size() - 1) + " more files"
                                    : ""),
                    "Nothing was written.",
                    "Say where that workstation sees the root of the file."));
        }
    }

    private static void refuse(DepartureCheck check, Departure departure) {
        String nothing = "Nothing was written.";
        if (!check.complete()) {
            throw new InputRefused(new Problem(
                    "The timeline does not leave", "its check was not finished", nothing, "Check it again."));
        }
        if (departure.signedBy().isBlank()) {
            throw new InputRefused(new Problem(
                    "The timeline does not leave",
                    "nobody signs for it",
                    nothing,
                    "Write the name of who lets it go."));
        }
        if (!check.passes()
                && departure.override().filter(reason -> !reason.isBlank()).isEmpty()) {
            var first = check.findings().stream()
                    .filter(DepartureCheck.Finding::blocks)
                    .findFirst()
                    .orElseThrow();
            long more = check.findings().stream()
                            .filter(DepartureCheck.Finding::blocks)
                            .count()
                    - 1;
            throw new InputRefused(new Problem(
                    "The timeline does not leave",
                    first.subject() + ": " + first.words() + (more > 0 ? "; and " + more + " more" : ""),
                    nothing,
                    "Put right what the check found, or let it go by name and reason."));
        }
    }

    private static Path named(Path target, Purpose purpose) {
        String name = String.valueOf(target.getFileName());
        if (purpose == Purpose.FINISHING
                || name.toLowerCase(java.util.Locale.ROOT).contains("review")) {
            return target;
        }
        int dot = name.lastIndexOf('.');
        return target.resolveSibling(
                dot < 0 ? name + "-review" : name.substring(0, dot) + "-review" + name.substring(dot));
    }

    // Pulling

    /// The files that a timeline needs.
    public PullList pullList(Conform conform, PullList.What what) {
        Path copies = catalogue.roots().all().stream()
                .filter(root -> root.id().equals(Root.COPIES))
                .findFirst()
                .orElseThrow()
                .path();
        return PullList.of(conform, what, catalogue.arrivals().all(), copies, handles());
    }

    /// Packs a timeline with what it needs into a folder.
    public Optional<Parcel> pack(
            Conform conform, PullList list, Path into, BiConsumer<Long, Long> progress, BooleanSupplier cancelled) {
        var tool = new AscMhl.Tool("Dock Sort", ProgramVersion.TEXT, Measurements.hostName());
        Optional<Parcel> parcel = Parcel.pack(conform, list, into, tool, clock.instant(), progress, cancelled);
        parcel.ifPresent(packed -> catalogue
                .activity()
                .write("Packed " + packed.files() + " files of " + list.what().label() + " into " + packed.folder()));
        return parcel;
    }

    /// Writes a pull list as a table.
    public void writePullList(PullList list, Path target) {
        Documents.replace(target, list.csv(Map.of()).getBytes(StandardCharsets.UTF_8));
        catalogue.activity().write("Wrote the pull list " + target.getFileName());
    }

    private static Path folderOf(Path file) {
        Path absolute = file.toAbsolutePath().normalize();
        Path parent = absolute.getParent();
        return parent == null ? absolute : parent;
    }
}
