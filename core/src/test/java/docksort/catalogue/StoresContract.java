package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import docksort.Clips;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.ScanResult;
import docksort.arrival.Stamp;
import docksort.arrival.Unreadable;
import docksort.catalogue.CopyChanges.FoundClip;
import docksort.catalogue.CopyChanges.FoundCopy;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.KeptFile;
import docksort.media.KeptFile.Kind;
import docksort.problem.Problem;
import docksort.sort.CopyKind;
import docksort.strain.Traits;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import net.jqwik.api.constraints.UniqueElements;

/// What the stores of a catalogue promise, whatever database they stand on.
abstract class StoresContract {
    private static final Root ALL = new Root("all", "All", Path.of("/"));
    private static final Root OTHER = new Root("other", "Other", Path.of("/other"));

    private static final WorkingCopy.Whole READ = new WorkingCopy.Whole("00112233445566ff", 0, false);

    private static final Desk DESK = new Desk("desk", "somebody");
    private static final Desk SUITE = new Desk("suite", "another");

    /// A catalogue with nothing in it; a name opens the same one again.
    abstract Catalogue open(String name, Desk desk);

    private Catalogue open(String name) {
        return open(name, DESK);
    }

    /// Everything that a person can see of a project, but its log.
    private record Seen(
            List<Root> roots,
            List<List<String>> elsewhere,
            List<Arrival> arrivals,
            List<Clip> clips,
            Map<ClipId, Presence> presence,
            Map<ClipId, List<String>> choices,
            List<WorkingCopy> copies,
            List<Pin> pins,
            Map<String, ClipId> said,
            Map<ClipId, List<FrameRange>> used,
            Optional<String> setting,
            List<Unreadable> unreadable,
            Map<ArrivalId, Integer> asides,
            List<ArrivalId> watched,
            Set<ClipId> aside,
            List<Unreadable> unreadableAside,
            Map<String, String> tables) {
        static Seen of(Catalogue catalogue) {
            return new Seen(
                    catalogue.roots().all(),
                    catalogue.roots().pathsElsewhere().stream()
                            .filter(row -> !row.get(1).equals(catalogue.roots().workstation()))
                            .toList(),
                    catalogue.arrivals().all(),
                    catalogue.clips().all(),
                    catalogue.clips().presence(),
                    catalogue.choices().all(),
                    catalogue.copies().all().stream()
                            .sorted(Comparator.comparing(WorkingCopy::id))
                            .toList(),
                    catalogue.timelines().pins(),
                    catalogue.timelines().said(),
                    catalogue.timelines().used(),
                    catalogue.settings().get("limits").filter(text -> !text.isEmpty()),
                    catalogue.arrivals().unreadable(false),
                    catalogue.arrivals().asides(),
                    catalogue.arrivals().watched(),
                    catalogue.aside().clips(),
                    catalogue.arrivals().unreadable(true),
                    Stream.of(Kind.values())
                            .flatMap(kind -> catalogue.kept().all(kind).stream())
                            .collect(Collectors.toMap(
                                    KeptFile::name,
                                    table -> new String(
                                            catalogue
                                                    .kept()
                                                    .content(table.digest())
                                                    .orElseThrow(),
                                            StandardCharsets.UTF_8))));
        }
    }

    private static WorkingCopy copy(Clip clip, String id, CopyState state) {
        return new WorkingCopy(
                id,
                clip.id(),
                CopyKind.LIGHT,
                "recipe",
                Root.COPIES,
                Path.of("/copies/" + id + ".mov"),
                state,
                "a note",
                clip.fingerprint(),
                id.endsWith("range") ? Optional.of(new FrameRange(3, 7)) : Optional.empty(),
                state.serves()
                        ? new WorkingCopy.Place(
                                1_000, 2_000, 960, 540, "VC-3", "mark", "", false, Optional.of(40L), READ)
                        : WorkingCopy.Place.NOT_YET,
                WorkingCopy.Service.USUAL,
                0);
    }

    /// Two arrivals of three clips, with copies, a file that cannot be read and one that is no footage.
    private static void fill(Catalogue catalogue) {
        catalogue.roots().add(new Root(Root.COPIES, "Copies", Path.of("/copies")));
        catalogue.roots().add(ALL);
        catalogue.roots().add(OTHER);
        for (String card : List.of("card", "drive")) {
            var arrival = new Arrival(new ArrivalId(card), card, Path.of("/" + card), Instant.EPOCH);
            catalogue.arrivals().begin(arrival, ALL);
            List<Clip> clips = IntStream.range(0, 3)
                    .mapToObj(i -> Clips.named("A00" + i).in(card).clip())
                    .toList();
            catalogue.clips().keep(clips, ALL);
            var unreadable = new Unreadable(
                    arrival.id(), Path.of("/" + card + "/x.mov"), new Problem("It", "is", "broken", "so"));
            var scan = new ScanResult(
                    clips,
                    List.of(),
                    List.of(unreadable),
                    Map.of(),
                    List.of(),
                    List.of(Path.of("/" + card + "/notes.txt")),
                    0,
                    false);
            catalogue.arrivals().endScan(arrival, ALL, scan, Optional.empty(), true);
            catalogue
                    .copies()
                    .enqueue(
                            clips.stream()
                                    .map(clip -> copy(clip, card + clip.name() + "-range", CopyState.WAITING))
                                    .toList(),
                            "queued");
            catalogue
                    .copies()
                    .update(catalogue.copies().all().stream()
                            .map(copy -> copy(clips.getFirst(), copy.id(), CopyState.READY)
                                    .withState(CopyState.READY, "ready"))
                            .toList());
        }
    }

    /// Something in every table.
    static void fillAll(Catalogue catalogue) {
        fill(catalogue);
        Clip clip = catalogue.clips().all().getFirst();
        Clip last = catalogue.clips().all().getLast();
        catalogue.settings().change("limits", "1", "limits");
        catalogue
                .kept()
                .add(
                        Kind.TABLE,
                        new KeptFile("0a".repeat(32), "Night.cube"),
                        "a table".getBytes(StandardCharsets.UTF_8));
        catalogue
                .kept()
                .add(
                        Kind.IMAGE,
                        new KeptFile("0b".repeat(32), "Night.png"),
                        "an image".getBytes(StandardCharsets.UTF_8));
        catalogue.roots().placeElsewhere(OTHER, "suite", "E:\\Footage");
        catalogue.clips().note(Map.of(clip.id(), new Presence(Presence.State.MOVED, "not in place")));
        catalogue
                .copies()
                .update(List.of(catalogue.copies().all().getFirst().withState(CopyState.MISSING, "not there")));
        catalogue.figures().keep("desk", clip.fingerprint(), "play", 1.5);
        catalogue
                .standIns()
                .keep(Map.of(clip.fingerprint(), Traits.of(clip.facts()).orElseThrow()));
        catalogue.timelines().use(Map.of(clip.id(), List.of(new FrameRange(1, 2))));
        catalogue.timelines().keepForms(Map.of(clip.id(), "25 fps"));
        catalogue.timelines().say("mention", clip.id(), "said");
        catalogue.timelines().pin(List.of(new Pin(clip.id(), Optional.empty(), "full")), _ -> false, "pinned");
        catalogue.choices().choose(List.of(clip.id()), Optional.of(List.of("a")), "chosen");
        catalogue.runs().keep(Instant.EPOCH, "a", "a line");
        catalogue.places().watch(Path.of("/incoming"), true, "watched");
        catalogue.places().take(Path.of("/incoming/CARD"));
        Arrival arrival = catalogue.arrivals().all().getFirst();
        var scan = new ScanResult(
                List.of(),
                List.of(),
                List.of(),
                Map.of(last.source().head(), new Stamp(1, 2, 3)),
                List.of(),
                List.of(Path.of("/card/n.txt")),
                0,
                false);
        catalogue.arrivals().endScan(arrival, ALL, scan, Optional.empty(), false);
        catalogue
                .takenOut()
                .takeOut(List.of(last.id()), List.of(), catalogue.roots().all(), "taken out");
    }

    @Example
    void whatWasKeptIsThereAfterOpeningAgain() {
        Seen before;
        try (Catalogue catalogue = open("again")) {
            fill(catalogue);
            before = Seen.of(catalogue);
        }
        try (Catalogue catalogue = open("again")) {
            assertThat(Seen.of(catalogue)).isEqualTo(before);
            assertThat(before.clips()).hasSize(6);
            assertThat(before.copies()).hasSize(6).allMatch(copy -> copy.range().isPresent());
            assertThat(catalogue.arrivals().incomplete()).isEmpty();
        }
    }

    /// More rows than are sent at once, to each of two readers, of which every one is there and in order.
    @Example
    void aLargeTableIsReadWhole() {
        try (Catalogue catalogue = open("large")) {
            fill(catalogue);
            List<Clip> many = IntStream.range(0, 9_001)
                    .mapToObj(i -> Clips.named("L%05d".formatted(i * 5 % 9_001))
                            .in("card")
                            .clip())
                    .toList();
            catalogue.clips().keep(many, ALL);
            try (Catalogue again = open("large", SUITE)) {
                assertThat(again.clips().all().stream().map(Clip::name).filter(name -> name.startsWith("L")))
                        .containsExactlyElementsOf(
                                many.stream().map(Clip::name).sorted().toList());
            }
        }
    }

    /// What is read again is what changed.
    @Example
    void aClipThatDidNotChangeStaysTheSame() {
        try (Catalogue here = open("in-proportion");
                Catalogue there = open("in-proportion", SUITE)) {
            fillAll(here);
            List<Clip> before = there.clips().all();
            Clip changed = before.get(1);
            here.clips()
                    .keep(
                            List.of(Clips.named(changed.name())
                                    .in("card")
                                    .raster("640x480")
                                    .clip()),
                            ALL);
            List<Clip> after = there.clips().all();
            assertThat(after.get(1)).isNotSameAs(changed);
            Set<Clip> known = Collections.newSetFromMap(new IdentityHashMap<>());
            known.addAll(before);
            assertThat(known).containsAll(after.subList(2, after.size())).contains(after.getFirst());
            assertThat(after).hasSameSizeAs(before);
        }
    }

    @Example
    void tablesAndImagesAreKeptOnceByTheirContent() {
        try (Catalogue here = open("tables");
                Catalogue there = open("tables", SUITE)) {
            var table = new KeptFile("0123456789abcdef".repeat(4), "Night.cube");
            var image = new KeptFile("fedcba9876543210".repeat(4), "Night.png");
            byte[] text = "LUT_3D_SIZE 2\n".repeat(5_000).getBytes(StandardCharsets.UTF_8);
            byte[] samples = {(byte) 0x89, 0, -1};
            assertThat(here.kept().add(Kind.TABLE, table, text)).isTrue();
            assertThat(here.kept().add(Kind.IMAGE, image, samples)).isTrue();
            assertThat(there.kept().add(Kind.TABLE, new KeptFile(table.digest(), "Other.cube"), text))
                    .isFalse();
            assertThat(there.kept().all(Kind.TABLE)).containsExactly(table);
            assertThat(there.kept().all(Kind.IMAGE)).containsExactly(image);
            assertThat(there.kept().content(table.digest())).hasValue(text);
            assertThat(there.kept().content(image.digest())).hasValue(samples);
            assertThat(there.kept().content("none")).isEmpty();
            assertThat(there.kept().remove(Kind.IMAGE, table)).isFalse();
            assertThat(there.kept().remove(Kind.TABLE, table)).isTrue();
            assertThat(here.kept().remove(Kind.TABLE, table)).isFalse();
            assertThat(here.kept().all(Kind.TABLE)).isEmpty();
            assertThat(here.kept().all(Kind.IMAGE)).containsExactly(image);
        }
    }

    /// What reading a file again found stays with it, on every workstation, until there is another file.
    @Example
    void whatReadingAgainFoundIsOfTheFileThatWasRead() {
        try (Catalogue here = open("read-again");
                Catalogue there = open("read-again", SUITE)) {
            fill(here);
            WorkingCopy copy = here.copies().all().getFirst();
            var found = new WorkingCopy.Whole("ffeeddccbbaa9988", 1_234, true);
            here.copies().readAgain(copy, found);
            WorkingCopy read = there.copies().of(List.of(copy.id())).getFirst();
            assertThat(read.place().whole()).isEqualTo(found);

            there.copies().update(List.of(copy.withState(CopyState.STALE, "read before")));
            assertThat(here.copies().of(List.of(copy.id())).getFirst().place().whole())
                    .as("a state of before takes nothing back but the sum it was checked by")
                    .isEqualTo(new WorkingCopy.Whole(READ.sum(), 1_234, true));

            WorkingCopy.Place old = copy.place();
            var anew = new WorkingCopy.Place(
                    old.bytes(),
                    9_000,
                    old.width(),
                    old.height(),
                    old.codec(),
                    old.recipeMark(),
                    old.fingerprint(),
                    false,
                    Optional.empty(),
                    WorkingCopy.Whole.checked("1111222233334444"));
            there.copies().update(List.of(copy.withPlace(anew)));
            here.copies().readAgain(copy, found); // of the file before
            assertThat(here.copies().of(List.of(copy.id())).getFirst().place().whole())
                    .isEqualTo(WorkingCopy.Whole.checked("1111222233334444"));
        }
    }

    /// A figure that is there already is measured again, here or by another program, and others come: each is
    /// the latest, though all were measured in one moment, and none is another machine's.
    @Example
    void figuresAreTheLatestWhoeverMeasuredThem() {
        Fingerprint a = Clips.named("a").clip().fingerprint();
        Fingerprint b = Clips.named("b").clip().fingerprint();
        try (Catalogue here = open("figures");
                Catalogue there = open("figures", SUITE)) {
            here.figures().keep("desk", a, "made:light", 1.0);
            assertThat(here.figures().of("desk", "made:light", Double.class)).isEqualTo(Map.of(a, 1.0));
            here.figures().keep("desk", a, "made:light", 2.0);
            assertThat(here.figures().of("desk", "made:light", Double.class)).isEqualTo(Map.of(a, 2.0));
            there.figures().keep("desk", b, "made:light", 3.0);
            there.figures().keep("desk", b, "made:full", 4.0);
            there.figures().keep("suite", b, "made:full", 5.0);
            assertThat(here.figures().of("desk", "made:light", Double.class)).isEqualTo(Map.of(a, 2.0, b, 3.0));
            assertThat(here.figures().beginning("desk", "made:", Double.class))
                    .extracting(FigureStore.Figure::kind, FigureStore.Figure::value)
                    .containsExactlyInAnyOrder(tuple("light", 2.0), tuple("light", 3.0), tuple("full", 4.0));
        }
    }

    /// Whatever is done, in whatever order: each undo leads to what was seen before the step that it takes
    /// back, each redo to what was seen after it, and undo leads back from there too.
    @Property(tries = 25)
    void undoLeadsBackStepByStepAndRedoForward(
            @ForAll @Size(min = 1, max = 24) @UniqueElements List<@IntRange(max = 999_999) Integer> seeds) {
        try (Catalogue catalogue = open("undo-" + seeds.hashCode() + "-" + System.nanoTime())) {
            fill(catalogue);
            Deque<Seen> seen = new ArrayDeque<>();
            for (int seed : seeds) {
                Seen before = Seen.of(catalogue);
                int lines = catalogue.activity().latest(1_000).size();
                act(catalogue, new Random(seed));
                if (catalogue.activity().latest(1_000).size() > lines) {
                    seen.push(before);
                } else if (!Seen.of(catalogue).equals(before)) {
                    throw new AssertionError("something was changed that cannot be taken back, by seed " + seed);
                }
            }
            Deque<Seen> again = new ArrayDeque<>();
            for (Seen before : seen) {
                again.push(Seen.of(catalogue));
                assertThat(catalogue.activity().undo(Optional.empty())).isPresent();
                assertThat(Seen.of(catalogue)).isEqualTo(before);
            }
            assertThat(catalogue.activity().whatUndoTakesBack()).isEmpty();
            for (Seen after : again) {
                assertThat(catalogue.activity().redo(Optional.empty())).isPresent();
                assertThat(Seen.of(catalogue)).isEqualTo(after);
            }
            assertThat(catalogue.activity().redo(Optional.empty())).isEmpty();
            for (Seen before : seen) {
                assertThat(catalogue.activity().undo(Optional.empty())).isPresent();
                assertThat(Seen.of(catalogue)).isEqualTo(before);
            }
        }
    }

    @Example
    void whatWasTakenBackIsNotDoneAgainAfterAnotherChange() {
        try (Catalogue catalogue = open("branch")) {
            catalogue.settings().change("limits", "1", "one");
            catalogue.settings().change("limits", "2", "two");
            assertThat(catalogue.activity().undo(Optional.empty())).contains("two");
            assertThat(catalogue.activity().whatRedoDoesAgain()).contains("two");
            catalogue.settings().change("limits", "3", "three");
            assertThat(catalogue.activity().redo(Optional.empty())).isEmpty();
            assertThat(catalogue.settings().get("limits")).contains("3");
            assertThat(catalogue.activity().latest(4))
                    .extracting(Activity::what, Activity::back)
                    .containsExactly(
                            tuple("three", Activity.Back.POSSIBLE),
                            tuple("Took back: two", Activity.Back.NEVER),
                            tuple("two", Activity.Back.TAKEN),
                            tuple("one", Activity.Back.POSSIBLE));
        }
    }

    private static <T> Optional<T> one(List<T> all, Random random) {
        return all.isEmpty() ? Optional.empty() : Optional.of(all.get(random.nextInt(all.size())));
    }

    private static <T> List<T> some(List<T> all, Random random) {
        return all.stream().filter(_ -> random.nextBoolean()).toList();
    }

    private static Root all(Catalogue catalogue) {
        return catalogue.roots().all().stream()
                .filter(each -> each.id().equals(ALL.id()))
                .findFirst()
                .orElseThrow();
    }

    private static List<Clip> below(Root root, List<Clip> clips) {
        return clips.stream()
                .filter(clip -> clip.source().head().startsWith(root.path()))
                .toList();
    }

    /// One step that a person could take, under a name of its own.
    private static void act(Catalogue catalogue, Random random) {
        String what = "step " + random.nextLong();
        List<Clip> clips = catalogue.clips().all();
        List<WorkingCopy> copies = catalogue.copies().all();
        List<ClipId> ids = some(clips, random).stream().map(Clip::id).toList();
        Optional<Clip> clip = one(clips, random);
        switch (random.nextInt(18)) {
            case 0 ->
                catalogue
                        .choices()
                        .choose(ids, random.nextBoolean() ? Optional.of(List.of("a", "b")) : Optional.empty(), what);
            case 1 -> catalogue.settings().change("limits", "" + random.nextInt(3), what);
            case 2 -> catalogue.clips().readAt(ids, Optional.of(FrameRate.FPS_25), what);
            case 3 -> clip.ifPresent(one -> catalogue.timelines().say("mention " + random.nextInt(2), one.id(), what));
            case 4 ->
                catalogue
                        .timelines()
                        .pin(
                                ids.stream()
                                        .map(id -> new Pin(id, Optional.of(new FrameRange(1, 2)), "full"))
                                        .toList(),
                                _ -> random.nextBoolean(),
                                what);
            case 5 -> catalogue.copyChanges().stop(some(copies, random), random.nextBoolean(), what);
            case 6 -> catalogue.copyChanges().forget(some(copies, random), what);
            case 7 ->
                clip.ifPresent(one -> catalogue
                        .copyChanges()
                        .add(List.of(here(catalogue, copy(one, "taken-" + random.nextLong(), CopyState.READY))), what));
            case 8 ->
                catalogue
                        .copyChanges()
                        .renamed(
                                some(copies, random).stream()
                                        .collect(Collectors.toMap(
                                                copy -> copy,
                                                copy -> copy.file().resolveSibling(random.nextLong() + ".mov"))),
                                what);
            case 9 -> {
                Root root = all(catalogue);
                Map<ClipId, Presence> presence = new HashMap<>();
                ids.forEach(id -> presence.put(id, new Presence(Presence.State.OFFLINE, what)));
                catalogue.roots().move(root, Path.of("/mnt/" + random.nextInt(3)), presence);
            }
            case 10 ->
                catalogue
                        .roots()
                        .placeElsewhere(OTHER, "suite " + random.nextInt(2), random.nextBoolean() ? "E:\\Footage" : "");
            case 11 -> {
                var found = new ArrayList<FoundClip>();
                clip.ifPresent(one -> found.add(new FoundClip(
                        one.id(),
                        new ClipSource.SingleFile(Path.of("/other/" + random.nextLong() + ".mov")),
                        OTHER,
                        Presence.ONLINE)));
                var foundCopies = new ArrayList<FoundCopy>();
                one(copies, random)
                        .ifPresent(copy -> foundCopies.add(
                                new FoundCopy(copy, Path.of("/other/c" + random.nextLong() + ".mov"), OTHER, 77)));
                catalogue.copyChanges().found(found, foundCopies, what);
            }
            case 12 ->
                catalogue
                        .takenOut()
                        .takeOut(
                                ids,
                                some(catalogue.arrivals().unreadable(false), random),
                                catalogue.roots().all(),
                                what);
            case 13 ->
                one(below(all(catalogue), clips), random)
                        .ifPresent(small -> one(clips, random)
                                .filter(original -> !original.id().equals(small.id()))
                                .ifPresent(original -> {
                                    Set<String> taken =
                                            copies.stream().map(WorkingCopy::id).collect(Collectors.toSet());
                                    var copy = copy(
                                                    original,
                                                    WorkingCopy.camerasId(original.id(), taken),
                                                    CopyState.READY)
                                            .withFile(ALL.id(), small.source().head());
                                    catalogue
                                            .takenOut()
                                            .becomeCopies(
                                                    List.of(small.id()),
                                                    List.of(copy),
                                                    catalogue.roots().all(),
                                                    what);
                                }));
            case 14 -> {
                Root all = all(catalogue);
                one(
                                copies.stream()
                                        .filter(copy -> copy.file().startsWith(all.path() + "/card")
                                                || copy.file().startsWith(all.path() + "/drive"))
                                        .toList(),
                                random)
                        .ifPresent(copy -> clip.ifPresent(like -> catalogue
                                .takenOut()
                                .becomeFootage(
                                        List.of(copy),
                                        List.of(new Clip(
                                                ClipId.fresh(),
                                                like.arrival(),
                                                new ClipSource.SingleFile(copy.file()),
                                                like.facts(),
                                                like.fingerprint())),
                                        all,
                                        what)));
            }
            case 15 ->
                catalogue
                        .aside()
                        .put(
                                ids,
                                some(catalogue.arrivals().unreadable(false), random),
                                catalogue.roots().all(),
                                what);
            case 16 ->
                catalogue
                        .aside()
                        .bringBack(
                                ids,
                                some(catalogue.arrivals().unreadable(true), random),
                                catalogue.roots().all(),
                                what);
            default ->
                one(catalogue.arrivals().all(), random)
                        .ifPresent(arrival -> catalogue.takenOut().takeOut(arrival, what));
        }
    }

    /// A copy below the root that this workstation has for copies.
    private static WorkingCopy here(Catalogue catalogue, WorkingCopy copy) {
        Root copies = catalogue.roots().all().stream()
                .filter(root -> root.id().equals(Root.COPIES))
                .findFirst()
                .orElseThrow();
        return copy.withFile(copies.id(), copies.path().resolve(copy.file().getFileName()));
    }

    @Example
    void theQueueKeepsItsOrderAndAFailedCopyComesBackAtItsEnd() {
        try (Catalogue catalogue = open("queue")) {
            fill(catalogue);
            Clip clip = catalogue.clips().all().getFirst();
            catalogue
                    .copies()
                    .enqueue(
                            List.of(
                                    copy(clip, "q1", CopyState.WAITING),
                                    copy(clip, "q2", CopyState.WAITING),
                                    copy(clip, "q3", CopyState.WAITING)),
                            "queued");
            catalogue.copies().reorder(List.of("q3", "q1", "q2"));
            assertThat(queue(catalogue)).containsExactly("q3", "q1", "q2");
            catalogue.copies().update(List.of(copy(clip, "q3", CopyState.FAILED)));
            assertThat(queue(catalogue)).containsExactly("q1", "q2");
            catalogue.copies().enqueue(List.of(copy(clip, "q3", CopyState.WAITING)), "again");
            assertThat(queue(catalogue)).containsExactly("q1", "q2", "q3");
        }
    }

    private static List<String> queue(Catalogue catalogue) {
        return catalogue.copies().all().stream()
                .filter(copy -> copy.state().isQueued())
                .sorted(Comparator.comparingLong(WorkingCopy::position))
                .map(WorkingCopy::id)
                .toList();
    }

    @Example
    void twoAtATimeSeeEachOthersChanges() {
        try (Catalogue one = open("two");
                Catalogue other = open("two")) {
            fill(one);
            Clip clip = other.clips().all().getFirst();
            other.choices().choose(List.of(clip.id()), Optional.of(List.of("r")), "chosen there");
            assertThat(one.choices().all()).containsEntry(clip.id(), List.of("r"));
            assertThat(one.activity().undo(Optional.empty())).contains("chosen there");
            assertThat(other.choices().all()).isEmpty();
        }
    }

    /// Who read all before, and reads only what changed since, sees what a program sees that reads all for the
    /// first time.
    @Property(tries = 3)
    void whoLooksAgainSeesWhatSomebodyNewSees(@ForAll @Size(12) List<@IntRange(max = 999_999) Integer> seeds) {
        String name = "again-" + seeds.hashCode() + "-" + System.nanoTime();
        try (Catalogue here = open(name);
                Catalogue there = open(name, SUITE)) {
            fill(here);
            for (int seed : seeds) {
                var random = new Random(seed * 0x9E37_79B9_7F4A_7C15L); // the first bits of near seeds are the same
                Catalogue who = random.nextBoolean() ? here : there;
                if (random.nextInt(4) == 0) {
                    who.activity().undo(Optional.empty());
                } else {
                    act(who, random);
                }
                Seen now = Seen.of(there);
                try (Catalogue fresh = open(name, SUITE)) {
                    assertThat(now).isEqualTo(Seen.of(fresh));
                }
                Set<Clip> known = Collections.newSetFromMap(new IdentityHashMap<>());
                known.addAll(there.clips().all());
                assertThat(known)
                        .as("nothing is read anew where nothing changed")
                        .containsAll(there.clips().all());
            }
        }
    }

    /// What one desk does not find is missing there alone, and is there again when somebody made it anew.
    @Example
    void whatIsMissingIsMissingOnOneWorkstation() {
        try (Catalogue here = open("missing", DESK);
                Catalogue there = open("missing", SUITE)) {
            fill(here);
            there.roots()
                    .place(there.roots().all().stream()
                            .collect(Collectors.toMap(root -> root, root -> Path.of("/mnt/" + root.id()))));
            Clip clip = here.clips().all().getFirst();
            WorkingCopy copy = here.copies().all().getFirst();
            there.clips().note(Map.of(clip.id(), new Presence(Presence.State.OFFLINE, "not mounted")));
            there.copies().update(List.of(there.copies().all().getFirst().withState(CopyState.MISSING, "not there")));
            assertThat(there.clips().presence()).containsOnlyKeys(clip.id());
            assertThat(here.clips().presence()).isEmpty();
            assertThat(there.copies().all().getFirst())
                    .extracting(WorkingCopy::state, WorkingCopy::note)
                    .containsExactly(CopyState.MISSING, "not there");
            assertThat(here.copies().all().getFirst()).isEqualTo(copy);
            assertThat(there.copies().all().getFirst().file())
                    .isEqualTo(Path.of("/mnt/copies").resolve(copy.file().getFileName()));
            there.copies().enqueue(List.of(copy.withState(CopyState.WAITING, "")), "to be made again");
            assertThat(there.copies().of(List.of(copy.id())).getFirst().state())
                    .as("what was missing can be made")
                    .isEqualTo(CopyState.WAITING);
            there.copies().update(List.of(copy.withState(CopyState.MISSING, "not there")));
            here.copies()
                    .update(List.of(copy.withPlace(new WorkingCopy.Place(
                                    1_001, 2_001, 960, 540, "VC-3", "mark", "", false, Optional.of(40L), READ))
                            .withState(CopyState.READY, "made again")));
            assertThat(there.copies().of(List.of(copy.id())).getFirst().state()).isEqualTo(CopyState.READY);
        }
    }

    /// Two desks change what is theirs at once: nothing of either is lost, and no two copies get one place in
    /// the queue.
    @Example
    void nothingIsLostWhenTwoDesksWriteAtOnce() throws Exception {
        try (Catalogue here = open("at-once", DESK);
                Catalogue there = open("at-once", SUITE);
                var threads = Executors.newFixedThreadPool(2)) {
            fill(here);
            List<Clip> clips = here.clips().all();
            var both = new ArrayList<Future<?>>();
            for (Catalogue desk : List.of(here, there)) {
                int half = desk == here ? 0 : 3;
                both.add(threads.submit(() -> {
                    for (int i = 0; i < 60; i++) {
                        Clip clip = clips.get(half + i % 3);
                        String name = "d" + half + "-" + i;
                        desk.choices().choose(List.of(clip.id()), Optional.of(List.of(name)), name);
                        desk.timelines()
                                .pin(
                                        List.of(new Pin(clip.id(), Optional.of(new FrameRange(i, 1)), name)),
                                        _ -> false,
                                        name);
                        desk.copies().enqueue(List.of(copy(clip, name, CopyState.WAITING)), name);
                    }
                }));
            }
            for (Future<?> one : both) {
                one.get();
            }
            assertThat(here.timelines().pins()).hasSize(120);
            assertThat(there.choices().all().values())
                    .containsExactlyInAnyOrderElementsOf(IntStream.of(57, 58, 59)
                            .boxed()
                            .flatMap(i -> List.of(List.of("d0-" + i), List.of("d3-" + i)).stream())
                            .toList());
            List<WorkingCopy> queued = here.copies().all().stream()
                    .filter(copy -> copy.state().isQueued())
                    .toList();
            assertThat(queued).hasSize(120);
            assertThat(queued).extracting(WorkingCopy::position).doesNotHaveDuplicates();
            assertThat(here.activity().latest(1_000))
                    .filteredOn(deed -> deed.what().startsWith("d3"))
                    .hasSize(180)
                    .allMatch(deed -> deed.person().equals("another")
                            && deed.workstation().equals("suite"));
        }
    }

    /// Each change of another program is heard, its own are not.
    @Example
    void whatAnotherProgramWritesIsHeardAndWhatItWritesItselfIsNot() throws Exception {
        try (Catalogue here = open("heard", DESK);
                Catalogue there = open("heard", SUITE)) {
            var heard = new Semaphore(0);
            try (Overheard _ = here.overhear(heard::release)) {
                for (int i = 0; i < 5; i++) {
                    there.settings().put("limits", "" + i);
                    assertThat(heard.tryAcquire(5, TimeUnit.SECONDS)).isTrue();
                    assertThat(here.settings().get("limits")).contains("" + i);
                }
                for (int i = 0; i < 5; i++) {
                    here.settings().put("serving", "" + i);
                }
                there.activity().write("the last");
                assertThat(heard.tryAcquire(5, TimeUnit.SECONDS)).isTrue();
                assertThat(heard.availablePermits()).isZero();
            }
        }
    }
}
