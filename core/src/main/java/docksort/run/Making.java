package docksort.run;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Brake;
import docksort.engine.Cancellation;
import docksort.engine.ProcessControl;
import docksort.engine.ProcessControl.Rank;
import docksort.media.CopyForm;
import docksort.problem.Problem;
import docksort.sort.Recipe;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongSupplier;

/// Makes what a worker took from the queue: copies of one clip, in as few passes over it as go together.
final class Making {
    private final RunHost host;
    private final MeasuredClips measured;
    private final Setbacks setbacks;
    private final TogetherMaking together;

    Making(RunTools tools, RunHost host, Terms terms, LongSupplier heldNanos) {
        this.host = host;
        this.measured = new MeasuredClips(tools, host);
        this.setbacks = new Setbacks(host, terms);
        var publishing = new Publishing(tools, host, terms, measured, setbacks);
        this.together = new TogetherMaking(tools, host, terms.checksAll(), heldNanos, publishing, setbacks);
    }

    /// Carries out a group to its end. Nothing is thrown for a copy that fails.
    void make(
            List<WorkingCopy> copies,
            Map<ClipId, Clip> clips,
            MakingListener listener,
            Pace pace,
            Brake brake,
            Cancellation cancellation)
            throws InterruptedException {
        var control = new ProcessControl(
                cancellation, brake, pace.gently() ? Rank.LAST : Rank.BELOW_WINDOWS, pace.speedCap());
        var jobs = new ArrayList<Job>();
        Map<ClipId, Optional<Clip>> counted = new HashMap<>();
        for (WorkingCopy copy : copies) {
            Optional<Clip> clip = Optional.ofNullable(clips.get(copy.clip()));
            if (copy.range().isEmpty() && clip.filter(MeasuredClips::isGuessed).isPresent()) {
                if (!counted.containsKey(copy.clip())) {
                    counted.put(copy.clip(), Optional.of(measured.of(clip.get(), control)));
                }
                clip = counted.getOrDefault(copy.clip(), clip);
            }
            prepare(copy, clip, listener).ifPresent(jobs::add);
        }
        if (cancellation.isCancelled()) {
            listener.cancelled(jobs.stream().map(Job::copy).toList());
            return;
        }
        while (!jobs.isEmpty()) {
            Job first = jobs.getFirst();
            List<Job> group =
                    jobs.stream().filter(job -> first.goesTogether(job)).toList();
            jobs.removeAll(group);
            together.make(group, listener, control);
        }
    }

    private Optional<Job> prepare(WorkingCopy copy, Optional<Clip> clip, MakingListener listener) {
        Optional<Recipe> recipe = host.recipe(copy.recipeId());
        if (clip.isEmpty() || recipe.isEmpty()) {
            listener.state(Setbacks.failed(
                    copy,
                    new Problem(
                            "The copy " + copy.file() + " cannot be made",
                            "its clip or recipe is gone",
                            "The original is as it was.",
                            "Plan it anew.")));
            return Optional.empty();
        }
        Recipe.Resolution resolution = recipe.get().resolve(clip.get(), host.circumstances(), copy.range());
        if (resolution instanceof Recipe.Resolution.Impossible(var why)) {
            listener.state(Setbacks.failed(
                    copy,
                    new Problem(
                            "No copy of " + clip.get().source().head(),
                            why,
                            "The original is as it was.",
                            "Leave it as it is.")));
            return Optional.empty();
        }
        CopyForm form = ((Recipe.Resolution.Possible) resolution).form();
        var job = new Job(copy, clip.get(), recipe.get(), form);
        return setbacks.isInTheWay(job, listener) ? Optional.empty() : Optional.of(job);
    }
}
