package docksort.sort;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.media.FrameRange;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Raster;
import docksort.media.Wrapper;
import docksort.sort.Warning.Remedy;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/// What one click does to a plan makes it better, whatever the plan is.
class RemediesTest {
    private static final int PLANS = 300;
    private static final List<String> RASTERS =
            List.of("3840x2160", "2560x1440", "1920x1080", "1280x720", "1080x1920", "2160x3840", "640x480");
    private static final Planning PLAIN = Clips.planning(SortBook.BUILT_IN);
    private static final List<Recipe> OWN = List.of(
            own("quarter", CopyKind.LIGHT, Encoding.PRORES_PROXY, new Scaling.PerSide(4)),
            own("long", CopyKind.LIGHT, Encoding.H264_LONG, new Scaling.PerSide(2)),
            own("eight", CopyKind.FULL, Encoding.VC3_HQ, new Scaling.Full()),
            own("ten", CopyKind.FULL, Encoding.VC3_HQX, new Scaling.Full()),
            own("fit", CopyKind.FULL, Encoding.PRORES_422, new Scaling.FitTimeline()),
            own("part", CopyKind.RANGE, Encoding.VC3_HQ, new Scaling.Full()));
    private static final SortBook BOOK = new SortBook(OWN, SortRule.BUILT_IN, false);

    private static Recipe own(String id, CopyKind kind, Encoding encoding, Scaling scaling) {
        return Recipe.of(id, id, kind, encoding, Wrapper.MOV, scaling);
    }

    /// What a plan wants of a clip.
    private record Want(ClipId clip, String recipe) {}

    private static Planning planning(Map<ClipId, List<String>> chosen, Planning like, long room) {
        return new Planning(
                BOOK,
                chosen,
                like.inStock(),
                PLAIN.judge(),
                Map.of(),
                PLAIN.circumstances(),
                PLAIN.pastCopies(),
                (_, _) -> Clips.room("volume", room),
                Map.of(),
                like.ranges(),
                (_, _) -> List.of(),
                Set.of(),
                _ -> Optional.empty());
    }

    @Test
    void afterEachRemedyAPlanHasFewerMistakesAndAllElseThatWasWanted() {
        var random = new Random(21);
        var kinds = new TreeSet<String>();
        for (int plan = 0; plan < PLANS; plan++) {
            List<Clip> clips = clips(random);
            Map<ClipId, List<String>> chosen = choices(clips, random);
            Map<ClipId, List<FrameRange>> used = clips.stream()
                    .filter(_ -> random.nextInt(3) > 0)
                    .collect(Collectors.toMap(Clip::id, _ -> List.of(new FrameRange(0, 5), new FrameRange(20, 9))));
            var stocked = new HashSet<Want>();
            chosen.forEach((clip, ids) ->
                    ids.stream().filter(_ -> random.nextInt(6) == 0).forEach(id -> stocked.add(new Want(clip, id))));
            var like = new Planning(
                    BOOK,
                    Map.of(),
                    copy -> stocked.contains(
                            new Want(copy.clip().id(), copy.recipe().id())),
                    PLAIN.judge(),
                    Map.of(),
                    PLAIN.circumstances(),
                    PLAIN.pastCopies(),
                    PLAIN.rooms(),
                    Map.of(),
                    used,
                    (_, _) -> List.of(),
                    Set.of(),
                    _ -> Optional.empty());
            long room = random.nextInt(4) == 0 ? 3_000_000_000L : 900_000_000_000L;
            LoadSheet before = LoadSheet.plan(clips, planning(chosen, like, room));
            for (Warning warning : before.warnings()) {
                if (warning.remedy() instanceof Remedy.Choose choose) {
                    kinds.add(warning.text().replaceFirst("^\\d+ cop(y|ies) ", ""));
                    var after = new HashMap<>(chosen);
                    after.putAll(choose.recipes());
                    check(before, LoadSheet.plan(clips, planning(after, like, room)), warning, choose);
                }
            }
        }
        assertThat(kinds)
                .as("remedies of every kind were tried")
                .anyMatch(kind -> kind.contains("transparency"))
                .anyMatch(kind -> kind.contains("fewer bits"))
                .anyMatch(kind -> kind.contains("more bits"))
                .anyMatch(kind -> kind.contains("larger than originals"))
                .anyMatch(kind -> kind.contains("smaller than the timeline"))
                .anyMatch(kind -> kind.contains("long-GOP"))
                .anyMatch(kind -> kind.contains("another fraction"))
                .anyMatch(kind -> kind.contains("cannot be made"));
    }

    private static List<Clip> clips(Random random) {
        var clips = new ArrayList<Clip>();
        for (int i = 0; i < 1 + random.nextInt(8); i++) {
            Clips clip = Clips.named("c" + i)
                    .raster(RASTERS.get(random.nextInt(RASTERS.size())))
                    .bits(random.nextBoolean() ? 8 : 10 + 2 * random.nextInt(2))
                    .interval(random.nextBoolean() ? 1 : 1 + random.nextInt(60))
                    .frameBytes(300 + random.nextInt(3) * 4_000_000);
            if (random.nextInt(5) == 0) {
                clip = clip.alpha();
            }
            if (random.nextInt(5) == 0) {
                clip = clip.chroma(Chroma.C444);
            }
            clips.add(clip.clip());
        }
        return clips;
    }

    private static Map<ClipId, List<String>> choices(List<Clip> clips, Random random) {
        List<String> ids = BOOK.recipes().stream().map(Recipe::id).toList();
        Map<ClipId, List<String>> chosen = new HashMap<>();
        for (Clip clip : clips) {
            var some = new TreeSet<String>();
            for (int i = 0; i < 1 + random.nextInt(3); i++) {
                some.add(ids.get(random.nextInt(ids.size())));
            }
            chosen.put(clip.id(), List.copyOf(some));
        }
        return chosen;
    }

    private static void check(LoadSheet before, LoadSheet after, Warning warning, Remedy.Choose choose) {
        String what = warning.text() + " -> " + choose.words() + " " + choose.effect();
        assertThat(after.warnings()).as(what).hasSizeLessThan(before.warnings().size());
        Set<Want> gone = new HashSet<>(wanted(before));
        gone.removeAll(wanted(after));
        assertThat(gone).as(what).allMatch(want -> warning.clips().contains(want.clip()));
        if (warning.text().matches(".*(larger than originals|long-GOP|another fraction).*")) {
            assertThat(gone).as(what).allMatch(want -> kind(want) == CopyKind.LIGHT);
        } else if (warning.text().matches(".*(transparency|bits than).*")) {
            assertThat(gone).as(what).noneMatch(want -> kind(want) == CopyKind.LIGHT);
        }
        boolean without = choose.effect().startsWith("without");
        if (!without) {
            assertThat(kinds(after)).as("a copy of each kind stays: " + what).containsAll(kinds(before));
        }
        Map<Want, Integer> lines = lines(before);
        lines(after).forEach((copy, now) -> {
            if (!lines.containsKey(copy)) {
                int least = lines.entrySet().stream()
                        .filter(was -> was.getKey().clip().equals(copy.clip()) && gone.contains(was.getKey()))
                        .mapToInt(Map.Entry::getValue)
                        .min()
                        .orElse(Integer.MAX_VALUE);
                int original = original(after, copy.clip()).lines();
                assertThat(now)
                        .as("below the timeline only where it was already: " + what)
                        .matches(count -> count >= Math.min(1_080, original) || least < Math.min(1_080, original));
            }
        });
    }

    private static CopyKind kind(Want want) {
        return BOOK.byId(want.recipe()).orElseThrow().kind();
    }

    private static Raster original(LoadSheet sheet, ClipId clip) {
        return sheet.sorted().stream()
                .filter(sorted -> sorted.clip().id().equals(clip))
                .findFirst()
                .flatMap(sorted -> sorted.clip().facts().video())
                .orElseThrow()
                .displayRaster();
    }

    private static Set<Want> wanted(LoadSheet sheet) {
        return sheet.wanted().stream()
                .map(copy -> new Want(copy.clip().id(), copy.recipe().id()))
                .collect(Collectors.toSet());
    }

    private static Set<String> kinds(LoadSheet sheet) {
        return sheet.wanted().stream()
                .map(copy -> copy.clip().id() + " " + copy.recipe().kind())
                .collect(Collectors.toSet());
    }

    private static Map<Want, Integer> lines(LoadSheet sheet) {
        Map<Want, Integer> lines = new HashMap<>();
        sheet.wanted()
                .forEach(copy -> copy.form()
                        .filter(form -> form.target().isPresent())
                        .ifPresent(form -> lines.put(
                                new Want(copy.clip().id(), copy.recipe().id()),
                                form.raster().lines())));
        return lines;
    }
}
