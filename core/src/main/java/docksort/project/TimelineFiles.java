package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.catalogue.Undo;
import docksort.dispatch.Addressing;
import docksort.dispatch.Conform;
import docksort.dispatch.CutList;
import docksort.dispatch.Switching;
import docksort.files.Checksum;
import docksort.files.Documents;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.timeline.TimelineDocument;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.UUID;

/// Timelines written to disk; what a file held before is kept and can be put back.
public final class TimelineFiles {
    private final Catalogue catalogue;
    private final Settings settings;
    private final Path kept;

    TimelineFiles(Catalogue catalogue, Settings settings, Path kept) {
        this.catalogue = catalogue;
        this.settings = settings;
        this.kept = kept;
    }

    /// Saves a timeline as it stands, also into another folder: relative addresses are written anew from
    /// there.
    public void saveAs(Conform conform, Path target) {
        Path from = folderOf(conform.document().file());
        Path to = folderOf(target);
        TimelineDocument saved = conform.document();
        if (!from.equals(to)) {
            saved = saved.copy();
            Switching.readdress(conform.with(saved), Addressing.ELSEWHERE, to);
        }
        save(saved, target);
    }

    /// Replaces a file by a timeline. What was there before is kept and can be put back.
    public void save(TimelineDocument document, Path target) {
        Path absolute = target.toAbsolutePath().normalize();
        Optional<Path> before = keep(absolute);
        document.save(absolute);
        String what = "Saved " + absolute.getFileName();
        if (before.isPresent()) {
            catalogue.timelines().replaced(absolute.toString(), before.get().toString(), sum(absolute), what);
        } else {
            catalogue.activity().write(what);
        }
    }

    /// Keeps what a file holds now.
    Optional<Path> keep(Path file) {
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        Path copy = Documents.ensureFolder(kept).resolve(UUID.randomUUID().toString());
        Documents.replace(copy, Documents.read(file));
        return Optional.of(copy);
    }

    /// Puts a timeline's file back before its undo is noted.
    ///
    /// @return what puts it back to what it is now
    /// @throws InputRefused when another program has changed the file since
    Optional<Undo> beforeUndo(Undo undo) {
        if (undo instanceof Undo.TimelineReplaced(var file, var kept, var written)) {
            Path target = Path.of(file);
            if (!sum(target).equals(written)) {
                throw new InputRefused(new Problem(
                        "The timeline was not put back: " + target,
                        "it was changed or moved since it was saved",
                        "It is as it was. What it was before is kept in " + kept + ".",
                        "Copy that file where it is needed."));
            }
            Optional<Path> now = keep(target);
            Documents.replace(target, Documents.read(Path.of(kept)));
            return now.map(copy -> new Undo.TimelineReplaced(file, copy.toString(), sum(target)));
        }
        return Optional.empty();
    }

    private static String sum(Path file) {
        try {
            return Checksum.XXH64.of(file, () -> false).orElse("");
        } catch (IOException e) {
            return "";
        }
    }

    /// One track as a CMX 3600 edit list.
    ///
    /// @return what the list could not hold
    public List<String> writeEditList(Conform conform, String track, Path target) {
        CutList list = CutList.of(conform, track, settings.timelineRate());
        if (!String.valueOf(target.getFileName()).toLowerCase(Locale.ROOT).endsWith(".edl")) {
            throw new InputRefused(new Problem(
                    "The edit list was not written as " + target,
                    "its name must end with .edl",
                    "Nothing was written.",
                    "Choose another name."));
        }
        Documents.replace(target, list.text().getBytes(StandardCharsets.UTF_8));
        catalogue
                .activity()
                .write("Wrote track " + track + " of " + conform.document().name() + " as " + target.getFileName());
        return list.left();
    }

    static Path folderOf(Path file) {
        Path absolute = file.toAbsolutePath().normalize();
        Path parent = absolute.getParent();
        return parent == null ? absolute : parent;
    }
}
