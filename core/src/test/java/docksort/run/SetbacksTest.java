package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.CopyMaker.Lack;
import docksort.files.CopyFolder;
import docksort.files.PartialFile;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.VideoTarget;
import docksort.problem.Problem;
import docksort.run.CopyCheck.Finding;
import docksort.sort.Circumstances;
import docksort.sort.CopyKind;
import docksort.sort.Recipe;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What becomes of a copy whose check fails.
class SetbacksTest {
    private static final Problem PROBLEM = new Problem("no stand-in", "", "", "");

    /// What is said of an original of which nothing could be decoded while its copy was checked.
    private static final Finding UNSEEN =
            new Finding("stretch", "the original's", "none of the original's, of which none decodes", false);

    @TempDir
    Path folder = Path.of("");

    private final List<Obstacle> obstacles = new ArrayList<>();
    private final List<CopyState> states = new ArrayList<>();

    private Job job() throws Exception {
        Path file = folder.resolve("A001.mov");
        if (!Files.exists(file)) {
            Files.createFile(file);
        }
        Clip clip = Clips.named("A001").of(Clips.named("A001").facts(), new ClipSource.SingleFile(file));
        var copy = new WorkingCopy(
                "copy",
                clip.id(),
                CopyKind.LIGHT,
                Recipe.LIGHT_PRORES_HALF.id(),
                "root",
                folder.resolve("copy.mov"),
                CopyState.CHECKING,
                "",
                clip.fingerprint(),
                Optional.empty(),
                WorkingCopy.Place.NOT_YET,
                WorkingCopy.Service.USUAL,
                0);
        ClipFacts facts = clip.facts();
        CopyForm form = Clips.form(
                facts, VideoTarget.PRORES_PROXY, facts.video().orElseThrow().raster());
        return new Job(copy, clip, Recipe.LIGHT_PRORES_HALF, form);
    }

    private Begun begun() throws Exception {
        Job job = job();
        PartialFile partial = CopyFolder.open(folder, List.of(), "here").begin(List.of(), "copy.mov");
        Files.write(partial.working(), new byte[1]);
        return new Begun(job, partial, Optional.empty(), Optional.empty(), job.order(partial.working()));
    }

    private void failOrWait(Setbacks setbacks, Finding finding) throws Exception {
        setbacks.failOrWait(begun(), PROBLEM, List.of(finding), new Listener(), Spent.NOTHING, 0);
    }

    /// Its volume was away for a moment, and is back when the check is over. An original that never decodes is not
    /// tried for ever.
    @Test
    void aCopyWhoseOriginalCouldNotBeLookedAtIsMadeAgainSomeTimes() throws Exception {
        var setbacks = new Setbacks(new Host(), Terms.fixed(1).patient(Duration.ofHours(1)));
        for (int i = 0; i < 4; i++) {
            failOrWait(setbacks, UNSEEN);
        }
        assertThat(obstacles).hasSize(3).noneMatch(Obstacle::stands);
        assertThat(states).containsExactly(CopyState.FAILED);
    }

    /// Another workstation took this one for stopped and swept up behind it. A program that deletes files in the
    /// making for good is not given in to for ever.
    @Test
    void aCopyWhoseFileInTheMakingWasTakenAwayIsMadeAgainSomeTimes() throws Exception {
        var setbacks = new Setbacks(new Host(), Terms.fixed(1).patient(Duration.ofHours(1)));
        for (int i = 0; i < 4; i++) {
            Begun begun = begun();
            Files.delete(begun.partial().working());
            setbacks.failOrWait(begun, PROBLEM, List.of(), new Listener(), Spent.NOTHING, 0);
        }
        assertThat(obstacles).hasSize(3).noneMatch(Obstacle::stands);
        assertThat(states).containsExactly(CopyState.FAILED);
    }

    /// Its volume was away when the engine opened it, and is back already. A file that is gone for good is not waited
    /// for.
    @Test
    void aCopyWhoseOriginalCouldNotBeOpenedIsMadeAgainSomeTimes() throws Exception {
        var setbacks = new Setbacks(new Host(), Terms.fixed(1).patient(Duration.ofHours(1)));
        Job job = job();
        for (int i = 0; i < 4; i++) {
            setbacks.failOrWait(job, PROBLEM, Lack.ORIGINAL, new Listener(), Spent.NOTHING);
        }
        assertThat(obstacles).hasSize(3).noneMatch(Obstacle::stands);
        assertThat(states).containsExactly(CopyState.FAILED);
        Files.delete(job.clip().source().head());
        new Setbacks(new Host(), Terms.fixed(1).patient(Duration.ofHours(1)))
                .failOrWait(job, PROBLEM, Lack.ORIGINAL, new Listener(), Spent.NOTHING);
        assertThat(obstacles).hasSize(3);
        assertThat(states).containsExactly(CopyState.FAILED, CopyState.FAILED);
    }

    /// There never was a file.
    @Test
    void aCopyThatTheEngineCouldNotMakeHasFailedAtOnce() throws Exception {
        new Setbacks(new Host(), Terms.fixed(1).patient(Duration.ofHours(1)))
                .failOrWait(job(), PROBLEM, Lack.NOTHING, new Listener(), Spent.NOTHING);
        assertThat(obstacles).isEmpty();
        assertThat(states).containsExactly(CopyState.FAILED);
    }

    @Test
    void anyOtherCopyThatIsNoStandInHasFailed() throws Exception {
        var patient = new Setbacks(new Host(), Terms.fixed(1).patient(Duration.ofHours(1)));
        failOrWait(patient, new Finding("stretch", "the original's", "frame 3 is not the original's", false));
        failOrWait(new Setbacks(new Host(), Terms.fixed(1)), UNSEEN);
        assertThat(obstacles).isEmpty();
        assertThat(states).containsExactly(CopyState.FAILED, CopyState.FAILED);
    }

    private final class Listener implements MakingListener {
        @Override
        public void state(WorkingCopy copy) {
            states.add(copy.state());
        }

        @Override
        public void progressed(List<WorkingCopy> copies, long frames, List<Long> bytes) {}

        @Override
        public int groupsInWork() {
            return 1;
        }

        @Override
        public double processors() {
            return 1;
        }

        @Override
        public void cancelled(List<WorkingCopy> copies) {}

        @Override
        public void takenOver(WorkingCopy copy) {}

        @Override
        public void obstructed(WorkingCopy copy, Obstacle obstacle) {
            obstacles.add(obstacle);
        }

        @Override
        public boolean lackedMemory(List<WorkingCopy> copies) {
            return false;
        }

        @Override
        public void line(WorkingCopy copy, RunLine line) {}
    }

    /// Everything is in its place.
    private final class Host implements RunHost {
        @Override
        public Optional<Recipe> recipe(String id) {
            return Optional.empty();
        }

        @Override
        public Circumstances circumstances() {
            throw new UnsupportedOperationException();
        }

        @Override
        public boolean makes(String recipe) {
            return true;
        }

        @Override
        public Path sourceFolder(Clip clip) {
            return folder;
        }

        @Override
        public Path targetFolder(WorkingCopy copy, Clip clip) {
            return folder;
        }

        @Override
        public Optional<String> targetFault(Path target) {
            return Optional.empty();
        }

        @Override
        public CopyFolder folder(WorkingCopy copy, Clip clip) {
            throw new UnsupportedOperationException();
        }

        @Override
        public ByteSize need(Clip clip, Recipe recipe, CopyForm form) {
            return ByteSize.ZERO;
        }

        @Override
        public void measured(Clip clip) {}

        @Override
        public void made(WorkingCopy copy, Clip clip, CopyForm form, ClipFacts facts, Optional<Double> seconds) {}
    }
}
