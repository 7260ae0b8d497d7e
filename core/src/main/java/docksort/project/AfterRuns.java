package docksort.project;

import docksort.files.Documents;
import docksort.run.Afterwards;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/// What a person wants this machine to do when a run has come to its end. It is kept with the person and not in
/// a project: a project comes from others, too, and nothing in it says what a machine carries out.
public final class AfterRuns {
    private final Path file;

    public AfterRuns(Path file) {
        this.file = file;
    }

    public static AfterRuns ofThisPerson() {
        return new AfterRuns(Documents.ofThisPerson("after-runs.txt"));
    }

    public Afterwards now() {
        return Files.isRegularFile(file)
                ? Afterwards.parse(new String(Documents.read(file), StandardCharsets.UTF_8).strip())
                : Afterwards.NOTHING;
    }

    public void keep(Afterwards act) {
        Path folder = file.toAbsolutePath().getParent();
        if (folder != null) {
            Documents.ensureFolder(folder);
        }
        Documents.replace(file, act.text().getBytes(StandardCharsets.UTF_8));
    }
}
