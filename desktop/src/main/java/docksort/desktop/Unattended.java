package docksort.desktop;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.DockSortApp.Options;
import docksort.desktop.parts.PngFile;
import docksort.desktop.shell.Window;
import docksort.desktop.work.Job;
import docksort.desktop.workshop.DispatchDesk;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.TimelineView;
import docksort.desktop.workshop.Workshop;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.dispatch.DepartureReport;
import docksort.dispatch.Parcel;
import docksort.dispatch.PullList;
import docksort.files.Documents;
import docksort.media.ByteSize;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import docksort.sort.PlannedCopy;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.timeline.OtioTimeline;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;

/// Does the whole job through the window without anybody at it: adds the arrivals, plans, makes, checks,
/// switches the timeline to copies and back, prints what it did, and leaves a picture of each station and a
/// report. The exit code is 0 when every copy was made and every event came back to its original.
final class Unattended {
    private static final long LONGEST_MINUTES = 60;

    private final Workshop workshop;
    private final Window window;
    private final Options options;
    private final Path folder;
    private final List<String> report = new ArrayList<>();
    private boolean good = true;
    private int rateAsked;

    Unattended(Workshop workshop, Window window, Options options, Path folder) {
        this.workshop = workshop;
        this.window = window;
        this.options = options;
        this.folder = Documents.ensureFolder(folder);
    }

    void start() {
        Thread.ofPlatform().name("unattended").start(() -> {
            int code;
            try {
                work();
                code = good ? 0 : 1;
            } catch (InterruptedException | ExecutionException | TimeoutException | RuntimeException e) {
                System.err.println("dock-sort: the unattended run broke off: " + e);
                code = 1;
            }
            int exit = code;
            workshop.close();
            System.exit(exit);
        });
    }

    private void work() throws InterruptedException, ExecutionException, TimeoutException {
        Path demo = options.demo().orElseThrow(() -> new IllegalArgumentException("--unattended needs --demo"));
        wait(workshop.arrivals().add(Options.arrivals(demo)));
        tellArrivals();
        onWindow(() -> window.show(0));
        until(() -> window.picturesPending() == 0);
        picture("arrivals-summary");
        wait(workshop.arrivals().readAt(rateOpen(), view().format().rate()));
        say(
                "Read at %s fps: %d of the clips state no rate",
                view().format().rate().label(), rateAsked);
        Clip hard = clip("DESK_0412");
        wait(workshop.measuring().measure(List.of(hard)));
        wait(workshop.measuring().testLevers(List.of(hard)));
        wait(workshop.arrivals().lookAgain(view().arrivals().getFirst()));
        say("Measured %s", hard.name());
        onWindow(() -> {
            window.show(0);
            window.arrivals().select("DESK_0412");
        });
        until(() -> window.picturesPending() == 0);
        picture("arrivals");
        onWindow(() -> window.arrivals().showMap(true));
        picture("arrivals-map");
        onWindow(() -> window.arrivals().showMap(false));
        Arrival card = withSmallFiles();
        onWindow(() -> window.arrivals().showPairs(card));
        until(() -> window.scene().lookup("#pairs-table") instanceof TableView<?> table
                && !table.getItems().isEmpty());
        picture("pairs");
        onWindow(() -> window.arrivals().showList());
        onWindow(() -> window.setNight(true));
        picture("arrivals-night");
        onWindow(() -> window.setNight(false));
        tellPlan();
        onWindow(() -> window.show(1));
        wait(workshop.sort().tryOut(view().sheet().wanted()));
        say("Tried a second of each: time %s", view().sheet().time().label());
        picture("sort");
        wait(onWindow(() -> window.sort().compare("DESK_0412")));
        until(() -> !workshop.measuring().progress().get().running());
        picture("sort-compared");
        make();
        onWindow(() -> {
            window.show(3);
            window.stock().select("W210031");
        });
        picture("stock");
        seePair("DESK_0412");
        tellStock();
        dispatch(Options.timeline(demo).orElseThrow());
        Path written = folder.resolve("report.txt");
        Documents.replace(written, (String.join("\n", report) + "\n").getBytes(StandardCharsets.UTF_8));
        System.out.println("Pictures and report: " + folder);
    }

    private Arrival withSmallFiles() throws InterruptedException, ExecutionException, TimeoutException {
        Clip original = view().stock().stream()
                .filter(line -> line.copies().stream().anyMatch(WorkingCopy::isCameras))
                .findFirst()
                .orElseThrow()
                .clip();
        return view().arrivals().stream()
                .filter(arrival -> arrival.id().equals(original.arrival()))
                .findFirst()
                .orElseThrow();
    }

    private List<Clip> rateOpen() throws InterruptedException, ExecutionException, TimeoutException {
        List<Clip> open = view().clips().stream()
                .filter(clip -> clip.facts().isRateOpen())
                .toList();
        rateAsked = open.size();
        return open;
    }

    private Clip clip(String name) throws InterruptedException, ExecutionException, TimeoutException {
        return view().clips().stream()
                .filter(clip -> clip.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private ProjectView view() throws InterruptedException, ExecutionException, TimeoutException {
        return onWindow(() -> workshop.views().view().get().orElseThrow());
    }

    private void tellArrivals() throws InterruptedException, ExecutionException, TimeoutException {
        ProjectView view = view();
        var strains = view.strains();
        say(
                "Arrivals: %d folders, %d clips, %d files that cannot be read",
                view.arrivals().size(), view.clips().size(), view.unreadable().size());
        view.clips().forEach(clip -> {
            var strain = Objects.requireNonNull(strains.get(clip.id()));
            String codec = clip.facts()
                    .video()
                    .map(v -> v.codec().label() + " " + v.raster() + " "
                            + v.rate().label() + " fps " + v.pixels().label())
                    .orElse("sound");
            say(
                    "  %-20s %-58s %s",
                    clip.name(),
                    codec,
                    strain.verdict().label() + (strain.reasons().isEmpty() ? "" : ": " + strain.firstReason()));
        });
        view.unreadable()
                .forEach(file -> say(
                        "  %-20s cannot be read: %s",
                        file.file().getFileName(), file.problem().why()));
    }

    private void tellPlan() throws InterruptedException, ExecutionException, TimeoutException {
        ProjectView view = view();
        say(
                "Sort: %d copies wanted, %s to %s, time %s, %s free",
                view.sheet().wanted().size(),
                view.sheet().bytes().least(),
                view.sheet().bytes().most(),
                view.sheet().time().label(),
                view.room().free());
        for (PlannedCopy copy : view.sheet().wanted()) {
            say(
                    "  %-20s %-36s %-14s %s",
                    copy.clip().name(),
                    copy.recipe().label(),
                    copy.why(),
                    (copy.bytes().isExact() ? "exactly " : "about ")
                            + copy.bytes().likely());
        }
    }

    private void make() throws InterruptedException, ExecutionException, TimeoutException {
        onWindow(() -> window.show(2));
        wait(workshop.runs().start());
        until(() -> {
            RunSnapshot shown = workshop.runs().shown().get();
            return !shown.copies().isEmpty()
                    && shown.finished() >= Math.min(4, shown.copies().size() / 2);
        });
        picture("run");
        until(() -> !workshop.runs().shown().get().running());
        RunSnapshot run = onWindow(() -> workshop.runs().shown().get());
        say(
                "Run: %d made and checked, %d failed, %.1f s",
                run.ready(), run.count(CopyState.FAILED), run.elapsed().toMillis() / 1000.0);
        for (CopyProgress copy : run.copies()) {
            say(
                    "  %-20s %-7s %s",
                    copy.clipName(), copy.copy().state().label(), copy.copy().note());
        }
        good &= run.ready() == run.copies().size();
        wait(workshop.stock().refresh());
    }

    /// A recording beside its copy, at the frame that came out least like it.
    private void seePair(String clip) throws InterruptedException, ExecutionException, TimeoutException {
        onWindow(() -> window.stock().select(clip));
        until(() -> window.scene().lookup("#open-pair") != null);
        onWindow(() -> press("open-pair"));
        onWindow(() -> press("pair-least-alike"));
        onWindow(() -> press("pair-alike-here"));
        until(() -> window.scene().lookup("#pair-likeness") instanceof Label told
                && !told.getText().isEmpty()
                && !told.getText().startsWith("Compar"));
        picture("pair");
        onWindow(() -> press("back-to-list"));
    }

    private void tellStock() throws InterruptedException, ExecutionException, TimeoutException {
        ProjectView view = view();
        say("Stock:");
        for (StockLine line : view.stock()) {
            say(
                    "  %-20s %-9s %s",
                    line.clip().name(), line.served().label(), line.served().file());
        }
    }

    private void dispatch(Path timeline) throws InterruptedException, ExecutionException, TimeoutException {
        wait(workshop.dispatch().open(timeline));
        wait(workshop.dispatch().switchTo(ServingOrder.LIGHT_FIRST));
        onWindow(() -> window.show(4));
        picture("dispatch");
        Path light = folder.resolve("night_optics_light.otio");
        wait(workshop.dispatch().save(light));
        TimelineView onCopies =
                onWindow(() -> workshop.dispatch().timeline().get().orElseThrow());
        say(
                "Dispatch: %s, %d of %d events on copies, saved as %s",
                onCopies.name(), onCopies.onCopies(), onCopies.events().size(), light);
        wait(workshop.dispatch().switchTo(ServingOrder.ORIGINALS));
        Path back = folder.resolve("night_optics_originals.otio");
        wait(workshop.dispatch().save(back));
        TimelineView onOriginals =
                onWindow(() -> workshop.dispatch().timeline().get().orElseThrow());
        say(
                "  back on originals: %d of %d events on copies, saved as %s",
                onOriginals.onCopies(), onOriginals.events().size(), back);
        depart();
        wait(workshop.stock().serve(ServingOrder.LIGHT_FIRST));
        good &= onCopies.onCopies() > 0
                && onOriginals.onCopies() == 0
                && OtioTimeline.open(back).name().equals(onCopies.name());
    }

    /// Checks the timeline, lets it leave, and packs the originals it needs.
    private void depart() throws InterruptedException, ExecutionException, TimeoutException {
        onWindow(() -> press("open-departure"));
        onWindow(() -> {
            if (window.scene().lookup("#departure-delivery") instanceof TextField field) {
                field.setText("1920x1080"); // asked for once
            }
            press("departure-check");
        });
        until(() -> window.scene().lookup("#departure-leave") != null);
        picture("departure");
        onWindow(() -> press("back-to-list"));
        DispatchDesk desk = workshop.dispatch();
        DepartureCheck check = outcome(then -> desk.check(Purpose.FINISHING, true, then));
        DepartureReport report = answer(then -> desk.depart(
                check,
                folder.resolve("night_optics_final.otio"),
                Optional.empty(),
                "the unattended demo",
                Optional.empty(),
                then));
        say("  departure check: %s, report beside %s", report.result(), report.timeline());
        PullList list = answer(then -> desk.pullList(PullList.What.ORIGINALS, then));
        Parcel packed = outcome(then -> desk.pack(list, free("pulled"), then));
        say("  pulled: %d files, %s, into %s", packed.files(), new ByteSize(packed.bytes()), packed.folder());
        good &= check.passes();
    }

    private void press(String id) {
        ((Button) window.scene().lookup("#" + id)).fire();
    }

    /// A name in the folder that nothing has yet.
    private Path free(String name) {
        Path place = folder.resolve(name);
        for (int i = 2; Files.exists(place); i++) {
            place = folder.resolve(name + " " + i);
        }
        return place;
    }

    private static <T> T outcome(Function<Consumer<T>, Job> begin)
            throws InterruptedException, ExecutionException, TimeoutException {
        var outcome = new CompletableFuture<T>();
        onWindow(() -> {
            Job job = begin.apply(outcome::complete);
            job.state().subscribe(state -> {
                if (state == Job.State.FAILED || state == Job.State.STOPPED) {
                    outcome.completeExceptionally(new IllegalStateException(job.what() + " did not come to its end"));
                }
            });
        });
        return outcome.get(LONGEST_MINUTES, TimeUnit.MINUTES);
    }

    private static <T> T answer(Consumer<Consumer<T>> question)
            throws InterruptedException, ExecutionException, TimeoutException {
        var answer = new CompletableFuture<T>();
        onWindow(() -> question.accept(answer::complete));
        return answer.get(LONGEST_MINUTES, TimeUnit.MINUTES);
    }

    @com.google.errorprone.annotations.FormatMethod
    private void say(String format, Object... values) {
        String line = String.format(Locale.ROOT, format, values);
        report.add(line);
        System.out.println(line);
    }

    private void picture(String name) throws InterruptedException, ExecutionException, TimeoutException {
        settle(400);
        onWindow(() -> PngFile.write(window.scene().snapshot(null), folder.resolve(name + ".png")));
    }

    /// Waits for pictures to arrive and the layout to come to rest; nothing depends on how long it is.
    private static void settle(long millis) throws InterruptedException {
        new CountDownLatch(1).await(millis, TimeUnit.MILLISECONDS);
    }

    private static void wait(CompletableFuture<Void> step)
            throws InterruptedException, ExecutionException, TimeoutException {
        step.get(LONGEST_MINUTES, TimeUnit.MINUTES);
        // What the step showed is queued before this: once this ran, the window has it.
        onWindow(() -> {});
    }

    private static void until(BooleanSupplier reached)
            throws InterruptedException, ExecutionException, TimeoutException {
        long end = System.nanoTime() + TimeUnit.MINUTES.toNanos(LONGEST_MINUTES);
        while (!onWindow(reached::getAsBoolean)) {
            if (System.nanoTime() > end) {
                throw new TimeoutException("nothing happened for " + LONGEST_MINUTES + " minutes");
            }
            settle(100);
        }
    }

    private static void onWindow(Runnable work) throws InterruptedException, ExecutionException, TimeoutException {
        var done = new CompletableFuture<Boolean>();
        Platform.runLater(() -> {
            try {
                work.run();
                done.complete(true);
            } catch (RuntimeException e) {
                done.completeExceptionally(e);
            }
        });
        done.get(2, TimeUnit.MINUTES);
    }

    private static <T> T onWindow(Supplier<T> work) throws InterruptedException, ExecutionException, TimeoutException {
        var done = new CompletableFuture<T>();
        Platform.runLater(() -> {
            try {
                done.complete(work.get());
            } catch (RuntimeException e) {
                done.completeExceptionally(e);
            }
        });
        return done.get(2, TimeUnit.MINUTES);
    }
}
