package docksort.desktop.workshop;

import docksort.catalogue.Desk;
import docksort.catalogue.Invitation;
import docksort.catalogue.SharedAddress;
import docksort.problem.CoreException;
import docksort.problem.Faults;
import docksort.project.Project;
import docksort.project.Sharing;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import java.util.function.Supplier;

/// Makes this workstation a member of a shared project, before any project is open.
public final class Joining {
    private final Executor window;

    public Joining(Executor window) {
        this.window = window;
    }

    /// This workstation and this person, as they are called unless somebody says otherwise.
    public static Desk here() {
        return Project.deskHere();
    }

    /// @param then gets the project's roots on the window's thread
    /// @param failed gets what is wrong, in words
    public void look(SharedAddress address, Desk desk, Consumer<Invitation> then, Consumer<String> failed) {
        beside(() -> Sharing.look(address, desk, InstantSource.system()), then, failed);
    }

    /// @param places where the project's roots are here, by their names; those that are left out are nowhere
    public void join(
            Path folder,
            SharedAddress address,
            Desk desk,
            Map<String, Path> places,
            Runnable then,
            Consumer<String> failed) {
        beside(
                () -> Sharing.join(
                        folder, address, new Sharing.Joining(desk, places, false, false), InstantSource.system()),
                _ -> then.run(),
                failed);
    }

    private <T> void beside(Supplier<T> what, Consumer<T> then, Consumer<String> failed) {
        CompletableFuture.supplyAsync(what)
                .whenComplete((answer, fault) -> window.execute(() -> {
                    if (fault == null) {
                        then.accept(answer);
                    } else {
                        Throwable cause = fault.getCause() == null ? fault : fault.getCause();
                        failed.accept(
                                cause instanceof CoreException known
                                        ? known.problem().sentence()
                                        : Faults.tell(cause).sentence());
                    }
                }));
    }
}
