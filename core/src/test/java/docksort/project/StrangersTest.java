package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.OtherEngine;
import docksort.OtherEngine.Seen;
import docksort.Strangers;
import docksort.Strangers.Kind;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import docksort.run.Terms;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Media of strangers through inspection, plan, every built-in recipe and a range. What another build of
/// the engine decodes from the first byte on is the truth; each copy is read by that build, too: every
/// frame by the number painted on it, sound by its clicks.
@WithMedia
class StrangersTest {
    private static final int RANGE_FRAMES = 6;

    /// What codecs and containers cannot carry, and what is no copy at all.
    private record Limit(String recipes, String reason) {
        boolean matches(Recipe recipe, String why) {
            return recipe.id().matches(recipes)
                    && Pattern.compile(reason).matcher(why).find();
        }
    }

    private static final List<Limit> LIMITS = List.of(
            new Limit("full-rewrap", "^MOV does not take .* as it is"),
            new Limit("full-rewrap", "varies: a copy that is encoded anew conforms it"),
            new Limit("full-rewrap", "does not say when which frame is shown"),
            new Limit("range-vc3", "varies, so that a range has no fixed frames"),
            // VC-3 outside the HD family as the engine writes it has whole pictures only.
            new Limit("light-vc3-fit|full-vc3|range-vc3", "has no fields here: .*ProRes"));

    @TempDir
    Path folder = Path.of("");

    private final List<String> faults = Collections.synchronizedList(new ArrayList<>());
    private final List<String> refused = new ArrayList<>();
    private final Set<String> copied = ConcurrentHashMap.newKeySet();
    private final AtomicInteger copiesSeen = new AtomicInteger();

    /// What was made of one clip.
    private record Made(Kind kind, Clip clip, Seen truth) {}

    @Test
    void noCopyOfAStrangersClipIsReadyAndWrong() throws Exception {
        // A pattern of names, to look at some kinds only.
        var wanted = Pattern.compile(System.getProperty("docksort.strangers", ".*"));
        List<Kind> kinds = Strangers.kinds().stream()
                .filter(kind -> wanted.matcher(kind.name()).find())
                .toList();
        Path card = Files.createDirectories(folder.resolve("volume/card"));
        Map<Path, Kind> byFile = new ConcurrentHashMap<>();
        each(kinds, kind -> byFile.put(Strangers.make(kind, card).toRealPath(), kind));
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.arrivals().unreadable().forEach(bad -> faults.add(bad.toString()));
            Set<Path> seen =
                    project.clips().stream().map(clip -> clip.source().head()).collect(Collectors.toSet());
            byFile.forEach((file, kind) -> {
                if (!seen.contains(file)) {
                    fault(kind, "facts", "is no clip");
                }
            });
            for (Clip clip : project.clips()) {
                Kind kind = Objects.requireNonNull(byFile.get(clip.source().head()));
                if (kind.has("ask")) {
                    asked(kind, clip);
                    project.arrivals()
                            .readAt(
                                    List.of(clip),
                                    FrameRate.parse(kind.value("rate").orElseThrow()));
                }
            }
            Map<ClipId, Made> made = new ConcurrentHashMap<>();
            each(project.clips(), clip -> {
                Kind kind = Objects.requireNonNull(byFile.get(clip.source().head()));
                Seen truth = OtherEngine.see(clip.source().head(), kind.channels() > 0, folder);
                if (truth.times().size() != truth.numbers().size()
                        || truth.times().isEmpty()) {
                    fault(
                            kind,
                            "truth",
                            truth.numbers().size() + " pictures, "
                                    + truth.times().size() + " times");
                }
                made.put(clip.id(), new Made(kind, clip, truth));
                facts(kind, clip, truth);
            });
            make(project, made);
        }
        Files.write(Files.createDirectories(Path.of("target")).resolve("strangers.txt"), faults);
        System.out.println(kinds.size() + " kinds, " + copiesSeen + " copies read back, " + refused.size()
                + " refused in the plan");
        refused.forEach(System.out::println);
        assertThat(faults).isEmpty();
        whatIsRefusedIsListed(kinds);
    }

    /// At most 2 in 100 of what a full decode shows to be whole get no copy at all, and a page tells which.
    private void whatIsRefusedIsListed(List<Kind> kinds) throws Exception {
        String page = Files.readString(Path.of("..", "docs", "strangers.md"));
        List<Kind> whole = kinds.stream()
                .filter(kind -> !kind.has("holes") && !kind.has("damaged"))
                .toList();
        List<Kind> without =
                whole.stream().filter(kind -> !copied.contains(kind.name())).toList();
        assertThat(without).allSatisfy(kind -> assertThat(page).contains(kind.name()));
        assertThat(without.size() * 100).as("%s of %d", without, whole.size()).isLessThanOrEqualTo(2 * whole.size());
        assertThat(kinds.stream().filter(kind -> kind.words().stream().anyMatch(word -> word.startsWith("late:"))))
                .allSatisfy(kind -> assertThat(page).contains(kind.name()));
    }

    private void asked(Kind kind, Clip clip) {
        if (!clip.facts().isRateOpen()) {
            fault(kind, "facts", "a rate that no timeline has is not asked for");
        }
    }

    private void fault(Kind kind, String recipe, String what) {
        faults.add(kind + " · " + recipe + " · " + what);
    }

    private void facts(Kind kind, Clip clip, Seen truth) {
        VideoFacts video = clip.facts().video().orElseThrow();
        kind.value("rate").ifPresent(rate -> expect(kind, "rate", FrameRate.parse(rate), video.rate()));
        boolean varies = kind.has("vfr");
        expect(kind, "rate varies", varies, video.rateKind() == RateKind.VARIABLE);
        if (!varies && !kind.has("holes") && !kind.has("damaged")) {
            expect(kind, "frames", (long) truth.numbers().size(), video.frames().count());
        }
        ScanType scan = kind.has("tff")
                ? ScanType.TOP_FIELD_FIRST
                : kind.has("bff") ? ScanType.BOTTOM_FIELD_FIRST : ScanType.PROGRESSIVE;
        if (scan.isInterlaced() || video.scan().isInterlaced()) {
            expect(kind, "scan", scan, video.scan());
        }
        expect(kind, "alpha", kind.has("alpha"), video.pixels().alpha());
        kind.value("bits")
                .ifPresent(bits -> expect(
                        kind, "bits", bits, Integer.toString(video.pixels().bitDepth())));
        kind.value("sar").ifPresent(sar -> expect(kind, "pixel aspect", Rational.parse(sar), video.pixelAspect()));
        kind.value("keys")
                .ifPresent(keys -> expect(
                        kind,
                        "keyframes",
                        Long.parseLong(keys),
                        video.structure().frames().stream()
                                .filter(frame -> frame.key())
                                .count()));
    }

    private void expect(Kind kind, String fact, Object wanted, Object found) {
        if (!wanted.equals(found)) {
            fault(kind, "facts", fact + " " + found + ", is " + wanted);
        }
    }

    private void make(Project project, Map<ClipId, Made> made) throws Exception {
        Map<ClipId, List<FrameRange>> used = new HashMap<>();
        made.forEach((id, one) -> used.put(id, List.of(range(one))));
        project.plans().use(used, 0);
        project.book().change(new SortBook(List.of(), List.of(), false), "test");
        project.plans().choose(project.clips(), Optional.of(Recipe.BUILT_IN));
        LoadSheet sheet = project.plans().loadSheet();
        for (PlannedCopy copy : sheet.copies()) {
            if (copy.resolution() instanceof Recipe.Resolution.Impossible(var why)) {
                Kind kind = Objects.requireNonNull(made.get(copy.clip().id())).kind();
                refused.add(kind + " · " + copy.recipe().id() + " · " + why);
                boolean foretold = LIMITS.stream().anyMatch(limit -> limit.matches(copy.recipe(), why))
                        || kind.refusal(copy.recipe().id())
                                .filter(reason -> reason.matcher(why).find())
                                .isPresent();
                if (!foretold) {
                    fault(kind, copy.recipe().id(), "REFUSED " + why);
                }
            }
        }
        project.queue().enqueue(sheet);
        try (var run = project.runs().start(Terms.fixed(2), () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(22))).isTrue();
        }
        Map<ClipId, List<WorkingCopy>> copies = project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .collect(Collectors.groupingBy(WorkingCopy::clip));
        each(copies.entrySet(), entry -> judge(Objects.requireNonNull(made.get(entry.getKey())), entry.getValue()));
    }

    private interface Work<T> {
        void of(T what) throws Exception;
    }

    /// Two at a time: most of it waits for programs.
    private static <T> void each(Collection<T> all, Work<T> work) throws Exception {
        try (var two = Executors.newFixedThreadPool(2)) {
            var begun = new ArrayList<Future<?>>();
            for (T one : all) {
                begun.add(two.submit(() -> {
                    work.of(one);
                    return one;
                }));
            }
            for (Future<?> each : begun) {
                each.get();
            }
        }
    }

    private static FrameRange range(Made one) {
        long frames = one.clip().facts().video().orElseThrow().frames().count();
        long first = Math.max(0, frames * 11 / 20);
        return new FrameRange(first, Math.max(1, Math.min(RANGE_FRAMES, frames - first)));
    }

    private void judge(Made one, List<WorkingCopy> copies) throws Exception {
        Kind kind = one.kind();
        List<WorkingCopy> serving =
                copies.stream().filter(copy -> copy.state().serves()).toList();
        for (WorkingCopy copy : copies) {
            // Only decoding some shows that they are damaged in their middle.
            if (!serving.contains(copy) && !kind.has("late:" + copy.recipeId())) {
                fault(kind, copy.recipeId(), copy.state().label().toUpperCase(Locale.ROOT) + " " + copy.note());
            }
        }
        if (!serving.isEmpty()) {
            List<Seen> seen =
                    OtherEngine.see(serving.stream().map(WorkingCopy::file).toList(), kind.channels() > 0, folder);
            for (int i = 0; i < seen.size(); i++) {
                judge(one, serving.get(i), seen.get(i));
            }
        }
    }

    private void judge(Made one, WorkingCopy copy, Seen seen) throws Exception {
        Kind kind = one.kind();
        boolean holes = kind.has("holes");
        copiesSeen.incrementAndGet();
        copied.add(kind.name());
        boolean range = copy.range().isPresent();
        if (!range && !kind.has("damaged") && holes != (copy.state() == CopyState.READY_WITH_HOLES)) {
            fault(kind, copy.recipeId(), "WRONG state " + copy.state() + ": " + copy.note());
        }
        VideoFacts video = one.clip().facts().video().orElseThrow();
        List<Integer> truth = one.truth().numbers();
        double rate = video.rate().exact().toDouble();
        if (kind.has("vfr") && !kind.has("damaged")) {
            varying(one, copy, seen, rate);
        } else if (holes || kind.has("damaged")) {
            held(one, copy, seen);
        } else {
            int from = copy.range().map(r -> (int) r.first()).orElse(0);
            int to = copy.range().map(r -> (int) r.end()).orElse(truth.size());
            List<Integer> wanted = truth.subList(Math.min(from, truth.size()), Math.min(to, truth.size()));
            if (!seen.numbers().equals(wanted)) {
                fault(kind, copy.recipeId(), "WRONG frames " + brief(seen.numbers()) + ", are " + brief(wanted));
            }
        }
        if (!one.clip().facts().audio().isEmpty() && !(range && kind.has("loose"))) {
            sound(one, copy, seen, rate);
        }
        form(one, copy);
    }

    private static String brief(List<Integer> numbers) {
        return numbers.size() <= 16
                ? numbers.toString()
                : numbers.size() + " from " + numbers.subList(0, 6) + " to "
                        + numbers.subList(numbers.size() - 6, numbers.size());
    }

    /// A frame of the copy shows what the original shows within half a frame of its time.
    private void varying(Made one, WorkingCopy copy, Seen seen, double rate) {
        List<Double> times = one.truth().times();
        if (times.isEmpty()) {
            return; // told already
        }
        double half = 0.51 / rate;
        for (int k = 0; k < seen.numbers().size(); k++) {
            double at = times.getFirst() + k / rate;
            int number = seen.numbers().get(k);
            boolean shown = false;
            for (int i = 0; i < times.size(); i++) {
                int later = i + 1;
                while (later < times.size() && times.get(later).equals(times.get(i))) {
                    later++; // shown at the same moment
                }
                double until = later < times.size() ? times.get(later) : Double.MAX_VALUE;
                shown |= one.truth().numbers().get(i) == number && times.get(i) <= at + half && until >= at - half;
            }
            if (!shown) {
                fault(one.kind(), copy.recipeId(), "WRONG frame " + k + " shows " + number);
                return;
            }
        }
        long least = Math.round((times.getLast() - times.getFirst()) * rate) + 1;
        if (seen.numbers().size() < least - 1) {
            fault(one.kind(), copy.recipeId(), "WRONG " + seen.numbers().size() + " frames, at least " + least);
        }
        one.kind()
                .value("seconds")
                .map(Double::parseDouble)
                .filter(wanted -> Math.abs(wanted - seen.numbers().size() / rate) > 1.6 / rate)
                .ifPresent(wanted -> fault(
                        one.kind(),
                        copy.recipeId(),
                        "WRONG length " + seen.numbers().size() / rate + " s, is " + wanted));
    }

    /// Every frame that decodes is in its place; where none does, one of those before stands there.
    private void held(Made one, WorkingCopy copy, Seen seen) {
        int from = copy.range().map(r -> (int) r.first()).orElse(0);
        List<Integer> truth = one.truth().numbers();
        for (int k = 0; k < seen.numbers().size(); k++) {
            int number = seen.numbers().get(k);
            boolean clean = from + k < truth.size() && truth.get(from + k) == from + k;
            if (clean ? number != from + k : truth.contains(from + k) && number > from + k && !kindly(one)) {
                fault(one.kind(), copy.recipeId(), "WRONG frame " + (from + k) + " shows " + number);
                return;
            }
        }
    }

    /// What a decoder makes of damaged data is not told apart from a number.
    private static boolean kindly(Made one) {
        return one.kind().has("damaged");
    }

    private void sound(Made one, WorkingCopy copy, Seen seen, double rate) {
        double from = copy.range().map(FrameRange::first).orElse(0L) / rate;
        double length = seen.numbers().size() / rate;
        // A file that times only decoding leaves open by a frame when its pictures are shown.
        double near = Math.max(0.02, (one.kind().has("loose") ? 2.6 : 0.5) / rate);
        List<Double> wanted = one.truth().clicksFromPicture().stream()
                .map(click -> click - from)
                .filter(click -> click > 0.01 && click < length - 0.03)
                .toList();
        List<Double> found = seen.clicksFromPicture().stream()
                .filter(click -> click > 0.01 && click < length - 0.03)
                .toList();
        boolean same = wanted.size() == found.size()
                && IntStream.range(0, found.size()).allMatch(i -> Math.abs(found.get(i) - wanted.get(i)) <= near);
        if (!same) {
            fault(one.kind(), copy.recipeId(), "WRONG clicks " + found + ", are " + wanted);
        }
    }

    /// What the other build says of the copy's form.
    private void form(Made one, WorkingCopy copy) throws Exception {
        Map<String, String> said = OtherEngine.picture(copy.file());
        Kind kind = one.kind();
        VideoFacts video = one.clip().facts().video().orElseThrow();
        String stated = said.getOrDefault("field_order", "");
        boolean decoded = stated.equals("unknown")
                && said.getOrDefault("interlaced_frame", "0").equals("1");
        String order = decoded ? (said.getOrDefault("top_field_first", "0").equals("1") ? "tt" : "bb") : stated;
        boolean woven = order.equals("tt") || order.equals("bb") || order.equals("tb") || order.equals("bt");
        boolean fields =
                (kind.has("tff") || kind.has("bff")) && !copy.recipeId().equals(Recipe.REVIEW.id());
        if (fields
                && (!woven || order.startsWith("t") != kind.has("tff"))
                && !copy.recipeId().equals("full-rewrap")) {
            fault(kind, copy.recipeId(), "WRONG fields " + order);
        } else if (!fields && woven) {
            fault(kind, copy.recipeId(), "WRONG fields " + order);
        }
        String[] sar = said.getOrDefault("sample_aspect_ratio", "1:1")
                .replace("N/A", "1:1")
                .split(":", -1);
        double aspect = Double.parseDouble(sar[0]) / Math.max(1, Double.parseDouble(sar[1]));
        double shape = aspect * Integer.parseInt(said.get("width")) / Integer.parseInt(said.get("height"));
        double wanted = video.pixelAspect().toDouble()
                * video.raster().width()
                / video.raster().height();
        if (Math.abs(shape / wanted - 1) > 0.012) {
            fault(kind, copy.recipeId(), "WRONG shape " + shape + ", is " + wanted);
        }
        if (kind.has("alpha") && copy.recipeId().equals(Recipe.FULL_PRORES.id())) {
            String pixels = said.getOrDefault("pix_fmt", "");
            if (!pixels.startsWith("yuva")) {
                fault(kind, copy.recipeId(), "WRONG alpha is lost: " + pixels);
            }
        }
    }
}
