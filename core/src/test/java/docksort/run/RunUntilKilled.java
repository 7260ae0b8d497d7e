package docksort.run;

import docksort.engine.MediaEngine;
import docksort.project.LockedRun;
import docksort.project.Project;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;

/// A program of its own that works on a project's queue until it is killed.
final class RunUntilKilled {
    private RunUntilKilled() {}

    public static void main(String[] args) throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(Path.of(args[0]), engine, InstantSource.system());
                LockedRun run = project.runs().start(2, () -> {}).orElseThrow()) {
            run.run().awaitEnd(Duration.ofMinutes(5));
        }
    }
}
