package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.WithMedia;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ScanResult;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Desk;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.MediaEngine;
import docksort.media.CopyForm;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Measured;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoTarget;
import docksort.sort.Condition;
import docksort.sort.CopyKind;
import docksort.sort.Fact;
import docksort.sort.Fact.Is;
import docksort.sort.LoadSheet;
import docksort.sort.PastCopy;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import docksort.strain.PlayRatio;
import docksort.strain.TimelineFormat;
import docksort.strain.Traits;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A plan that remembers the one before is the same as one made anew, whatever happened in between, here or by
/// another program.
@WithMedia
class PlansTest {
    private static final int STEPS = 390;
    private static final int CLIPS = 24;
    private static final List<Recipe> RECIPES = List.of(
            Recipe.LIGHT_PRORES_HALF, Recipe.LIGHT_VC3_FIT, Recipe.FULL_VC3, Recipe.FULL_PRORES, Recipe.RANGE_VC3);
    private static final List<String> RASTERS = List.of("3840x2160", "1920x1080", "1080x1920", "640x480");

    @TempDir
    Path folder = Path.of("");

    private final Random random = new Random(4);
    private final MediaEngine engine = MediaEngine.locate();
    private Catalogue other;
    private Project project;
    private Root root;

    @BeforeEach
    void fill() throws Exception {
        Path home = Files.createDirectories(folder.resolve("project"));
        other = Catalogue.open(home.resolve("catalogue.db"), InstantSource.system(), new Desk("line", "somebody"));
        root = new Root("all", "All", Path.of("/"));
        other.roots().add(root);
        other.roots().add(new Root(Root.COPIES, "Copies", folder.resolve("copies")));
        for (String card : List.of("card", "drive")) {
            var arrival = new Arrival(new ArrivalId(card), card, Path.of("/" + card), Instant.EPOCH);
            List<Clip> clips = IntStream.range(0, CLIPS / 2)
                    .mapToObj(i -> clip(card, i).clip())
                    .toList();
            other.arrivals().begin(arrival, root);
            other.clips().keep(clips, root);
            other.arrivals()
                    .endScan(
                            arrival,
                            root,
                            new ScanResult(clips, List.of(), List.of(), Map.of(), List.of(), List.of(), 0, false),
                            Optional.empty(),
                            true);
        }
        CopyForm halfOfHd = Clips.form(Clips.named("past").facts(), VideoTarget.PRORES_PROXY, new Raster(960, 540));
        // So many that one more changes nothing of what is learned from all of them.
        for (int i = 0; i < 400; i++) {
            other.figures()
                    .keep(
                            Measurements.machineName(),
                            Clips.named("past" + i).clip().fingerprint(),
                            "made:" + RECIPES.getFirst().id(),
                            made(halfOfHd));
        }
        project = Project.open(home, engine, InstantSource.system());
    }

    private Clips clip(String card, int number) {
        return Clips.named("A" + number)
                .in(card)
                .raster(any(RASTERS))
                .bits(random.nextBoolean() ? 8 : 10)
                .interval(1 + random.nextInt(60))
                .frameBytes(300 + random.nextInt(3) * 400_000);
    }

    @AfterEach
    void close() {
        project.close();
        other.close();
        engine.close();
    }

    private <T> T any(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }

    @Test
    void aPlanThatRemembersIsTheSameAsOneMadeAnew() {
        var different = new HashSet<List<?>>();
        var warnings = new HashSet<String>();
        for (int step = 0; step < STEPS; step++) {
            String what = change(step);
            List<Clip> clips = project.clips();
            LoadSheet plan = project.plans().loadSheet(clips);
            LoadSheet anew = LoadSheet.plan(clips, project.plans().planning());
            String how = "after step " + step + ", " + what;
            assertThat(plan.sorted()).as(how).isEqualTo(anew.sorted());
            assertThat(plan.copies()).as(how).isEqualTo(anew.copies());
            assertThat(plan.warnings()).as(how).isEqualTo(anew.warnings());
            assertThat(plan.bytes()).as(how).isEqualTo(anew.bytes());
            assertThat(plan.time()).as(how).isEqualTo(anew.time());
            different.add(List.of(plan.sorted(), plan.copies(), plan.warnings()));
            plan.warnings().forEach(warning -> warnings.add(warning.text().replaceAll("\\d+", "")));
        }
        assertThat(different).as("most steps change the plan").hasSizeGreaterThan(STEPS / 3);
        assertThat(warnings).as("of many kinds").hasSizeGreaterThan(8);
    }

    private String change(int step) {
        List<Clip> clips = project.clips();
        Clip clip = any(clips);
        Recipe recipe = any(RECIPES);
        Catalogue by = other;
        switch (step % 13) {
            case 0 -> project.plans().choose(List.of(clip, any(clips)), Optional.of(List.of(recipe, any(RECIPES))));
            case 1 -> project.plans().choose(List.of(clip, any(clips)), Optional.empty());
            case 2 -> by.copies().enqueue(List.of(copy(clip, recipe, CopyState.WAITING)), "queued");
            case 3 -> {
                List<WorkingCopy> copies = by.copies().all();
                by.copies().update(List.of(any(copies).withState(any(List.of(CopyState.values())), "so")));
            }
            case 4 -> cameras(clip);
            case 5 ->
                project.plans()
                        .use(
                                Map.of(clip.id(), List.of(new FrameRange(random.nextInt(20), 1 + random.nextInt(40)))),
                                random.nextInt(9));
            case 6 ->
                by.figures()
                        .keep(
                                Measurements.machineName(),
                                clip.fingerprint(),
                                "play",
                                PlayRatio.of(Measured.of(1 + random.nextInt(60)), FrameRate.FPS_25, 4));
            case 7 -> {
                PlannedCopy planned = any(project.plans().loadSheet().copies().stream()
                        .filter(copy -> copy.form().flatMap(CopyForm::target).isPresent())
                        .toList());
                by.figures()
                        .keep(
                                Measurements.machineName(),
                                planned.clip().fingerprint(),
                                "made:" + planned.recipe().id(),
                                made(planned.form().orElseThrow()));
            }
            case 8 -> {
                if (random.nextBoolean()) {
                    project.puttingAside().put(List.of(clip), List.of());
                } else {
                    project.puttingAside().bringBack(List.copyOf(clips), List.of());
                }
            }
            case 9 ->
                by.clips()
                        .keep(
                                List.of(clip(
                                                clip.arrival().value(),
                                                Integer.parseInt(clip.name().replaceAll("\\D", "")))
                                        .clip()),
                                root);
            case 10 -> project.book().change(book(), "rules");
            case 11 ->
                project.settings()
                        .setTimelineFormat(new TimelineFormat(
                                Raster.parse(any(RASTERS)), FrameRate.FPS_25, Rational.of(1), "bt709", 48_000));
            default -> by.copyChanges().stop(List.of(any(by.copies().all())), random.nextBoolean(), "stopped");
        }
        return List.of(
                        "chosen",
                        "given back",
                        "queued",
                        "another state",
                        "a camera's copy",
                        "used",
                        "measured",
                        "made",
                        "put aside",
                        "inspected anew",
                        "rules",
                        "format",
                        "stopped")
                .get(step % 13);
    }

    private SortBook book() {
        var rules = new ArrayList<>(SortRule.BUILT_IN);
        rules.add(
                0,
                new SortRule(
                        List.of(new Condition(Fact.ARRIVAL, Is.EXACTLY, "card")),
                        List.of(any(RECIPES).id())));
        return random.nextBoolean() ? SortBook.BUILT_IN : SortBook.BUILT_IN.withRules(rules);
    }

    private PastCopy made(CopyForm form) {
        return new PastCopy(
                form.target(),
                "H.264",
                2_073_600,
                form.raster().pixels(),
                84,
                20_000,
                8_000 + random.nextInt(20_000),
                0.01 * (1 + random.nextInt(3)),
                random.nextBoolean());
    }

    private WorkingCopy copy(Clip clip, Recipe recipe, CopyState state) {
        return new WorkingCopy(
                clip.id().value() + "-" + recipe.id(),
                clip.id(),
                recipe.kind(),
                recipe.id(),
                Root.COPIES,
                folder.resolve("copies/" + clip.arrival() + clip.name() + recipe.id() + ".mov"),
                state,
                "",
                clip.fingerprint(),
                recipe.kind() == CopyKind.RANGE
                        ? Optional.of(new FrameRange(random.nextInt(20), 1 + random.nextInt(50)))
                        : Optional.empty(),
                WorkingCopy.Place.NOT_YET,
                WorkingCopy.Service.USUAL,
                0);
    }

    /// One that a camera wrote beside its original; what is known of it may come later.
    private void cameras(Clip clip) {
        List<WorkingCopy> known =
                other.copies().all().stream().filter(WorkingCopy::isCameras).toList();
        if (!known.isEmpty() && random.nextBoolean()) {
            Clip like = Clips.named("s").interval(1 + random.nextInt(30)).clip();
            other.standIns()
                    .keep(Map.of(
                            Fingerprint.parse(any(known).place().fingerprint()),
                            Traits.of(like.facts()).orElseThrow()));
            return;
        }
        int parts = 1 + random.nextInt(2);
        var place = new WorkingCopy.Place(
                1_000,
                2_000,
                1920 / parts,
                1080 / parts,
                "H.264",
                "",
                clip.fingerprint().toString());
        var copy = new WorkingCopy(
                clip.id().value() + "-camera",
                clip.id(),
                CopyKind.LIGHT,
                "",
                "all",
                Path.of("/" + clip.arrival() + "/" + clip.name() + "_s.mp4"),
                CopyState.READY,
                "",
                clip.fingerprint(),
                Optional.empty(),
                place,
                WorkingCopy.Service.USUAL,
                0);
        other.copyChanges().add(List.of(copy), "taken over");
    }
}
