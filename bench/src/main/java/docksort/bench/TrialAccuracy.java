package docksort.bench;

import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.logging.Level;
import java.util.logging.Logger;

/// How near a trial of a second comes to the whole: sizes of every copy, and the time of the whole run,
/// made one after the other. Wanted: sizes within a tenth for nine of ten, time within a quarter.
public final class TrialAccuracy {
    private TrialAccuracy() {}

    /// @param args a folder with arrivals two levels down (as the demo footage is), and a work folder
    public static void main(String[] args) throws IOException, InterruptedException {
        if (args.length != 2) {
            System.err.println("usage: TrialAccuracy FOOTAGE WORK");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.WARNING);
        Path footage = Path.of(args[0]).toRealPath();
        try (MediaEngine engine = MediaEngine.locate()) {
            for (Recipe recipe : List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_PRORES, Recipe.REVIEW)) {
                Path place = Path.of(args[1]).resolve("trial-" + recipe.id());
                try (Project project = Project.open(place, engine, InstantSource.system())) {
                    measure(project, footage, recipe);
                }
            }
        }
    }

    private static void measure(Project project, Path footage, Recipe recipe) throws IOException, InterruptedException {
        SideBySide.addArrivals(project, footage);
        project.plans().choose(project.clips(), Optional.of(List.of(recipe)));
        for (PlannedCopy copy : project.plans().loadSheet().wanted()) {
            project.trials().tryOut(copy.clip(), recipe, new Cancellation());
        }
        var sheet = project.plans().loadSheet();
        project.queue().enqueue(sheet);
        long before = System.nanoTime();
        try (LockedRun run = project.runs().start(1, () -> {}).orElseThrow()) {
            if (!run.run().awaitEnd(Duration.ofMinutes(30))) {
                throw new IllegalStateException("the run did not end");
            }
        }
        double seconds = (System.nanoTime() - before) / 1e9;
        int near = 0;
        for (PlannedCopy plan : sheet.wanted()) {
            WorkingCopy made = project.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .filter(copy -> copy.clip().equals(plan.clip().id())
                            && copy.recipeId().equals(recipe.id()))
                    .findFirst()
                    .orElseThrow();
            double ratio = plan.bytes().likely().bytes()
                    / (double) Math.max(1, made.place().bytes());
            near += Math.abs(ratio - 1) <= 0.1 ? 1 : 0;
            System.out.println(String.format(
                    Locale.ROOT,
                    "  %-22s size foreseen %.3f of made",
                    plan.clip().name(),
                    ratio));
        }
        System.out.println(String.format(
                Locale.ROOT,
                "%s: %d of %d sizes within a tenth; time foreseen %.1f s, took %.1f s, ratio %.2f",
                recipe.label(),
                near,
                sheet.wanted().size(),
                sheet.time().likelySeconds(),
                seconds,
                sheet.time().likelySeconds() / seconds));
    }
}
