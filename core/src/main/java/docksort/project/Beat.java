package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.catalogue.Machine;
import docksort.catalogue.Machine.Wish;
import docksort.catalogue.MachineStore;
import docksort.catalogue.Root;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.run.Run;
import docksort.run.RunSnapshot;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// What a run of a shared project shows to others every few seconds, and what it does for them: it keeps its
/// claims, tells how it stands, and follows what somebody asked of this workstation.
final class Beat implements Runnable {
    private final Catalogue catalogue;
    private final Run run;
    private Wish followed = Wish.WORK;
    private Optional<Machine.Asked> heard = Optional.empty();

    Beat(Catalogue catalogue, Run run) {
        this.catalogue = catalogue;
        this.run = run;
    }

    @Override
    public void run() {
        catalogue.claims().renew();
        Machine.Asked asked = catalogue.machines().asked();
        Wish wish = asked.wish();
        if (wish != followed) { // only what is new: who sits here may have steered otherwise since
            run.hold(wish == Wish.HOLD);
            run.pause(wish == Wish.DRAIN);
            followed = wish;
        }
        if (heard.filter(before -> !before.recipes().equals(asked.recipes())).isPresent()) {
            run.takeUp(catalogue.clips().all()); // what it was not given before
        }
        heard = Optional.of(asked);
        Set<String> far = catalogue.machines().far();
        run.far(catalogue.roots().all().stream()
                .filter(root -> far.contains(root.id()))
                .map(Root::path)
                .collect(Collectors.toSet()));
        RunSnapshot now = run.snapshot();
        catalogue
                .machines()
                .show(new MachineStore.Doing(
                        words(now),
                        now.inWork().size(),
                        now.workers(),
                        now.framesPerSecond(),
                        now.ready(),
                        now.count(docksort.catalogue.CopyState.FAILED)));
    }

    private static String words(RunSnapshot now) {
        return switch (now.phase()) {
            case WORKING -> now.inWork().isEmpty() ? "waits for its hours" : "makes copies";
            case OVER -> "is done";
            case PAUSED, HELD, WAITING -> now.why();
        };
    }

    void end() {
        try {
            catalogue.machines().leave();
        } catch (CatalogueUnavailable e) {
            // It shows no life any more, which says the same.
            System.getLogger(Beat.class.getName()).log(System.Logger.Level.DEBUG, "left without a word", e);
        }
    }
}
