package docksort.desktop.sort;

import docksort.arrival.Clip;
import docksort.media.ByteSize;
import docksort.media.CopyForm;
import docksort.sort.PlannedCopy;
import docksort.sort.PredictedTime;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.Tried;
import docksort.strain.BayProfile;
import docksort.strain.PlaybackBudget;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// Clips as each recipe would make them, held against each other.
final class CompareModel {
    private static final String ORIGINAL = "the original";
    private static final int FORMS = 3;
    private static final int MOST_STREAMS = 99;

    private final SortBook book;
    private final List<Clip> clips;
    private final Map<String, Tried> tried = new HashMap<>();
    private List<PlannedCopy> planned = List.of();
    private Optional<BayProfile> bay = Optional.empty();

    /// One recipe's outcome, or the original.
    ///
    /// @param share of the bytes of the largest, 0 to 1
    /// @param forms what the copies come to, the first few
    /// @param budget how many streams of it play at once; empty where nobody asks or nothing is known
    record Line(
            String title,
            String bytes,
            String time,
            double share,
            String forms,
            Optional<String> budget,
            Optional<Tried> tried) {}

    CompareModel(SortBook book, List<Clip> clips) {
        this.book = book;
        this.clips = List.copyOf(clips);
    }

    String subject() {
        return clips.size() == 1 ? first().name() : clips.size() + " selected clips";
    }

    Clip first() {
        return clips.getFirst();
    }

    List<Clip> clips() {
        return clips;
    }

    List<Recipe> recipes() {
        return book.recipes();
    }

    void plan(List<PlannedCopy> copies) {
        planned = List.copyOf(copies);
    }

    void tried(List<Tried> results) {
        results.forEach(result -> tried.put(result.name(), result));
    }

    void playOn(BayProfile machine) {
        bay = Optional.of(machine);
    }

    /// @param streams as typed
    /// @param volumeBytesPerSecond read speed where copies lie; empty when not measured
    /// @return empty while nothing is planned; recipes that no clip can be made by say why
    List<Line> lines(String streams, Optional<Double> volumeBytesPerSecond) {
        if (planned.isEmpty()) {
            return List.of();
        }
        long original =
                clips.stream().mapToLong(clip -> clip.facts().size().bytes()).sum();
        long most = Math.max(1, original);
        for (Recipe recipe : recipes()) {
            most = Math.max(most, likely(of(recipe)));
        }
        var lines = new ArrayList<Line>();
        lines.add(new Line(
                "The original",
                new ByteSize(original).label(),
                "",
                (double) original / most,
                "",
                Optional.empty(),
                Optional.ofNullable(tried.get(ORIGINAL))));
        for (Recipe recipe : recipes()) {
            List<PlannedCopy> made =
                    of(recipe).stream().filter(copy -> copy.form().isPresent()).toList();
            if (!made.isEmpty()) {
                lines.add(line(recipe, made, most, streams, volumeBytesPerSecond));
            } else if (!of(recipe).isEmpty()) {
                lines.add(refused(recipe));
            }
        }
        return lines;
    }

    private Line refused(Recipe recipe) {
        String why = of(recipe).stream()
                .map(PlannedCopy::resolution)
                .filter(Recipe.Resolution.Impossible.class::isInstance)
                .map(resolution -> ((Recipe.Resolution.Impossible) resolution).why())
                .distinct()
                .limit(FORMS)
                .collect(Collectors.joining("; "));
        return new Line(recipe.label(), "cannot be made", "", 0, why, Optional.empty(), Optional.empty());
    }

    private Line line(Recipe recipe, List<PlannedCopy> made, long most, String streams, Optional<Double> volume) {
        boolean exact = made.stream().allMatch(copy -> copy.bytes().isExact());
        long likely = likely(made);
        return new Line(
                recipe.label(),
                (exact ? "" : "about ") + new ByteSize(likely),
                made.stream()
                        .map(PlannedCopy::time)
                        .reduce(PredictedTime::plus)
                        .map(PredictedTime::label)
                        .orElse(""),
                (double) likely / most,
                made.stream()
                        .flatMap(copy -> copy.form().stream())
                        .map(CopyForm::label)
                        .distinct()
                        .limit(FORMS)
                        .collect(Collectors.joining(", ")),
                streams(streams).flatMap(count -> budget(made.getFirst(), count, volume)),
                Optional.ofNullable(tried.get(recipe.label())));
    }

    private static Optional<Integer> streams(String typed) {
        try {
            return Optional.of(Math.clamp(Integer.parseInt(typed.strip()), 1, MOST_STREAMS));
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    private List<PlannedCopy> of(Recipe recipe) {
        return planned.stream()
                .filter(copy -> copy.recipe().id().equals(recipe.id()))
                .toList();
    }

    private static long likely(List<PlannedCopy> copies) {
        return copies.stream().mapToLong(copy -> copy.bytes().likely().bytes()).sum();
    }

    private Optional<String> budget(PlannedCopy copy, int count, Optional<Double> volume) {
        return copy.form()
                .filter(form -> form.target().isPresent())
                .map(form -> PlaybackBudget.of(
                                count,
                                form,
                                (double) copy.bytes().likely().bytes() / Math.max(1, form.frames()),
                                volume,
                                machine(copy, form))
                        .sentence());
    }

    /// The machine that was chosen, or this one as far as the recipe was tried here.
    private Optional<BayProfile> machine(PlannedCopy copy, CopyForm form) {
        return bay.or(() -> Optional.ofNullable(tried.get(copy.recipe().label()))
                .map(result -> BayProfile.of(
                        "this machine",
                        0,
                        Map.of(
                                form.target().orElseThrow(),
                                result.playRatio().median()
                                        * form.rate().exact().toDouble()
                                        * form.raster().pixels()))));
    }
}
