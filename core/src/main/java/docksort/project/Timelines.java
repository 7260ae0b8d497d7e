package docksort.project;

import docksort.arrival.Clip;
import docksort.catalogue.Catalogue;
import docksort.dispatch.Conform;
import docksort.dispatch.TimelineComparison;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.stock.StockLine;
import docksort.timeline.TimelineDocument;
import docksort.timeline.TimelineEvent;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// Timelines, and which recordings they mean.
public final class Timelines {
    private static final String LAST = "timeline.file";

    private final Catalogue catalogue;
    private final Plans plans;
    private final Settings settings;
    private final Roots roots;

    Timelines(Catalogue catalogue, Plans plans, Settings settings, Roots roots) {
        this.catalogue = catalogue;
        this.plans = plans;
        this.settings = settings;
        this.roots = roots;
    }

    /// Opens a timeline and remembers it as the project's last.
    ///
    /// @throws InputRefused when it cannot be read
    public TimelineDocument open(Path file) {
        TimelineDocument document = read(file);
        catalogue.settings().put(LAST, document.file().toString());
        return document;
    }

    private TimelineDocument read(Path file) {
        return TimelineDocument.open(file, settings.timelineRate());
    }

    public Optional<Path> last() {
        return catalogue.settings().get(LAST).map(Path::of);
    }

    /// @param stock the project's clips and copies
    public Conform conform(TimelineDocument document, List<StockLine> stock) {
        return Conform.of(document, stock, roots.places(), catalogue.timelines().said());
    }

    /// Keeps that an event means a recording, and every event that mentions it alike.
    public void say(TimelineEvent event, Clip clip) {
        catalogue.timelines().say(event.media().key(), clip.id(), event.name() + " means " + clip.name());
    }

    /// What is otherwise in a newer version.
    ///
    /// @param older a timeline's file
    public TimelineComparison compare(Path older, Conform newer) {
        return TimelineComparison.of(newer.with(read(older)).events(), newer.events());
    }

    /// Keeps what a timeline uses, for range copies.
    ///
    /// @param handles frames before and after
    public void useOf(Conform conform, long handles) {
        if (handles < 0 || handles > 100_000) {
            throw new InputRefused(new Problem(
                    handles + " frames are no handles", "", "Nothing was changed.", "Write a number from 0 on."));
        }
        if (!catalogue.mayChange()) {
            return; // who only sees a shared project looks at its timelines all the same
        }
        catalogue.settings().put("handles", Long.toString(handles));
        plans.use(conform.needed(), handles);
    }
}
