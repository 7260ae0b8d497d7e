package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.arrival.Unreadable;
import docksort.catalogue.TakenOut;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.PinnedUse;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.ExclusiveLock;
import docksort.link.CopyNames;
import docksort.media.FrameRange;
import docksort.problem.CoreException.InputRefused;
import docksort.sort.Recipe;
import docksort.stock.ServingOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A card goes out of the project and comes back; its camera's own copies get other names. The card has an
/// original, a small copy of the camera's, a still, and a file that cannot be read.
@WithMedia
class TakenOutTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path card = Path.of("");
    private Project project;

    @BeforeEach
    void arrive() throws Exception {
        card = Files.createDirectories(folder.resolve("volume/CARD A"));
        Files.createDirectories(card.resolve("Small"));
        var footage = new Footage(engine);
        footage.clip(card.resolve("K0042.mov"), "320x180", "25", 40, "-c:v", "libx264");
        footage.clip(card.resolve("Small/K0042_P.mov"), "160x90", "25", 40, "-c:v", "mjpeg");
        footage.clip(card.resolve("K0043.mov"), "320x180", "25", 20, "-c:v", "mjpeg");
        Files.writeString(card.resolve("K0044.mov"), "no film");
        Files.writeString(card.resolve("notes.txt"), "Mirror first.");
        Path other = Files.createDirectories(folder.resolve("volume/CARD B"));
        footage.clip(other.resolve("L0001.mov"), "320x180", "25", 10, "-c:v", "mjpeg");
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
        project.arrivals().add(other, ScanListener.none(), new Cancellation());
    }

    @AfterEach
    void close() {
        project.close();
        engine.close();
    }

    private Arrival arrival(String name) {
        return project.arrivals().all().stream()
                .filter(each -> each.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private Clip clip(String name) {
        return project.clips().stream()
                .filter(each -> each.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private Recipe full() {
        return project.book().now().byId("full-vc3").orElseThrow();
    }

    private List<WorkingCopy> copies() {
        return project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .toList();
    }

    /// Everything that the catalogue's file holds but its log, read past the program.
    private Map<String, List<String>> everything() throws Exception {
        var tables = new TreeMap<String, List<String>>();
        try (var database = DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("project/catalogue.db"));
                var ask = database.createStatement()) {
            var names = new ArrayList<String>();
            try (ResultSet row = ask.executeQuery("SELECT name FROM sqlite_master WHERE type = 'table'")) {
                while (row.next()) {
                    names.add(row.getString(1));
                }
            }
            names.removeAll(Set.of("activity", "written", "sqlite_sequence"));
            for (String name : names) {
                var rows = new ArrayList<String>();
                try (ResultSet row = ask.executeQuery("SELECT * FROM " + name)) {
                    while (row.next()) {
                        var cells = new ArrayList<String>();
                        for (int i = 1; i <= row.getMetaData().getColumnCount(); i++) {
                            Object cell = row.getObject(i);
                            cells.add(cell instanceof byte[] bytes ? Arrays.toString(bytes) : String.valueOf(cell));
                        }
                        rows.add(cells.toString());
                    }
                }
                rows.sort(null);
                tables.put(name, rows);
            }
        }
        return tables;
    }

    @Test
    void anArrivalGoesOutWithAllThatHangsOnItAndComesBackWhole() throws Exception {
        Clip clip = clip("K0042");
        project.plans().choose(List.of(clip), Optional.of(List.of(full())));
        project.queue().enqueue(project.plans().loadSheet());
        project.plans().use(Map.of(clip.id(), List.of(new FrameRange(3, 9))), 0);
        project.serving()
                .pin(
                        List.of(new PinnedUse(clip, Optional.of(new FrameRange(3, 9)))),
                        Optional.of(ServingOrder.ORIGINALS));
        Map<String, List<String>> before = everything();
        assertThat(before.get("clip")).hasSize(3);
        assertThat(before.get("unreadable")).hasSize(1);
        assertThat(before.get("aside")).hasSize(1);

        TakenOut.Hanging hanging = project.takingOut().takeOut(arrival("CARD A"));
        assertThat(hanging).isEqualTo(new TakenOut.Hanging(2, 1, 1, 1, 1, 1, 1));
        Map<String, List<String>> without = everything();
        for (String table : List.of("unreadable", "aside", "copy", "choice", "pin", "used")) {
            assertThat(without.get(table)).as(table).noneMatch(row -> row.contains("K004") || row.contains("notes"));
        }
        assertThat(project.clips()).extracting(Clip::name).containsExactly("L0001");
        assertThat(card.resolve("K0042.mov")).exists();

        project.close();
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        assertThat(project.undo()).hasValueSatisfying(what -> assertThat(what).contains("Took out CARD A"));
        assertThat(everything()).isEqualTo(before);
    }

    @Test
    void whatIsNotDoneAgainAnyMoreIsNotKept() throws Exception {
        assertThat(project.undo()).hasValueSatisfying(what -> assertThat(what).contains("CARD B"));
        assertThat(everything().get("taken_out")).as("kept for Redo").isNotEmpty();
        project.redo();
        assertThat(project.clips()).hasSize(3);
        project.undo();
        project.plans().choose(project.clips(), Optional.of(List.of(full())));
        assertThat(project.whatRedoDoesAgain()).isEmpty();
        assertThat(everything().get("taken_out")).isEmpty();
    }

    @Test
    void whatCameInAgainMeanwhileIsNotThereTwice() throws Exception {
        project.takingOut().takeOut(arrival("CARD A"));
        project.arrivals().add(card.resolve("Small"), ScanListener.none(), new Cancellation());
        project.plans().choose(project.clips(), Optional.of(List.of(full())));
        project.queue().enqueue(project.plans().loadSheet()); // an arrival that has copies is not taken back
        project.undo(); // the choice
        Map<String, List<String>> before = everything();
        assertThatThrownBy(() -> project.undo())
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("its folder is in the project again");
        assertThat(everything()).isEqualTo(before);
    }

    @Test
    void whatIsPutAsideIsKeptAndNotPlannedAndComesBack() throws Exception {
        Clip clip = clip("K0042");
        List<Unreadable> broken = project.arrivals().unreadable();
        project.plans().choose(project.clips(), Optional.of(List.of(full())));
        project.queue().enqueue(project.plans().loadSheet());
        assertThat(project.queue().size()).isEqualTo(3);
        Map<String, List<String>> before = everything();

        assertThat(project.puttingAside().put(List.of(clip), broken).wanted()).isEqualTo(1);
        assertThat(project.puttingAside().clips()).containsExactly(clip.id());
        assertThat(project.puttingAside().unreadable()).isEqualTo(broken);
        assertThat(project.arrivals().unreadable()).isEmpty();
        assertThat(project.puttingAside().others(project.clips()))
                .extracting(Clip::name)
                .containsExactly("K0043", "L0001");
        assertThat(project.queue().size()).as("what waits to be made").isEqualTo(2);
        assertThat(project.plans().loadSheet().sorted())
                .extracting(sorted -> sorted.clip().name())
                .containsExactly("K0043", "L0001");
        assertThat(copies())
                .as("the camera's own copy serves on")
                .anyMatch(copy -> copy.isAdopted() && copy.mayServe());
        project.arrivals().lookAgain(arrival("CARD A"), Optional.empty(), ScanListener.none(), new Cancellation());
        assertThat(project.puttingAside().clips()).as("after another look").containsExactly(clip.id());
        assertThat(project.puttingAside().unreadable()).hasSize(1);

        project.undo();
        assertThat(everything()).isEqualTo(before);
        assertThat(project.redo()).as("with what leaves the queue").isPresent();
        assertThat(project.queue().size()).isEqualTo(2);
        assertThat(project.puttingAside().clips()).containsExactly(clip.id());
        project.undo();
        assertThat(everything()).isEqualTo(before);
        project.puttingAside().put(arrival("CARD A"));
        assertThat(project.plans().loadSheet().sorted()).hasSize(1);
        project.puttingAside().bringBack(List.of(clip), broken);
        assertThat(project.puttingAside().clips()).containsExactly(clip("K0043").id());
        project.queue().enqueue(project.plans().loadSheet());
        project.undo();
        project.undo();
        assertThat(project.puttingAside().clips()).isEmpty();
        assertThat(project.queue().size()).as("none of them twice").isEqualTo(3);
    }

    @Test
    void whatTheRunIsMakingIsNotPutAside() throws Exception {
        project.plans().choose(List.of(clip("K0042")), Optional.of(List.of(full())));
        project.queue().enqueue(project.plans().loadSheet());
        Map<String, List<String>> before = everything();
        try (var _ = ExclusiveLock.tryOn(folder.resolve("project/run.lock")).orElseThrow()) {
            assertThatThrownBy(() -> project.puttingAside().put(List.of(clip("K0042")), List.of()))
                    .isInstanceOf(InputRefused.class)
                    .hasMessageContaining("K0042 was not put aside");
        }
        assertThat(everything()).isEqualTo(before);
    }

    @Test
    void anArrivalWhoseCopiesAreBeingMadeStays() throws Exception {
        project.plans().choose(List.of(clip("K0042")), Optional.of(List.of(full())));
        project.queue().enqueue(project.plans().loadSheet());
        Map<String, List<String>> before = everything();
        try (var _ = ExclusiveLock.tryOn(folder.resolve("project/run.lock")).orElseThrow()) {
            assertThatThrownBy(() -> project.takingOut().takeOut(arrival("CARD A")))
                    .isInstanceOf(InputRefused.class)
                    .hasMessageContaining("the run is making copies of it");
        }
        assertThat(everything()).isEqualTo(before);
        project.takingOut().takeOut(arrival("CARD A"));
    }

    @Test
    void theCamerasOwnCopiesGetNamesWhereTheyLieAndAreTheSameAtTheNextLook() throws Exception {
        assertThat(project.renaming().names("{clip}_light", copies()).isSound()).isFalse();
        CopyNames names = project.renaming().names("{clip}_light", copies(), true);
        assertThat(project.renaming().rename(names)).isEqualTo(1);
        assertThat(card.resolve("Small/K0042_light.mov")).exists();
        assertThat(project.renaming().rename(project.renaming().names("{clip}_light", copies(), true)))
                .as("twice harmless")
                .isZero();
        Map<String, List<String>> before = everything();
        var looked = project.arrivals()
                .lookAgain(arrival("CARD A"), Optional.empty(), ScanListener.none(), new Cancellation());
        assertThat(looked.clips()).isEmpty();
        assertThat(looked.gone()).isEmpty();
        assertThat(everything()).isEqualTo(before);

        project.undo();
        assertThat(card.resolve("Small/K0042_P.mov")).exists();
        assertThat(project.redo()).isPresent();
        assertThat(card.resolve("Small/K0042_light.mov")).exists();
        assertThat(everything()).isEqualTo(before);
        project.undo();
        assertThat(card.resolve("Small/K0042_P.mov")).exists();
        looked = project.arrivals()
                .lookAgain(arrival("CARD A"), Optional.empty(), ScanListener.none(), new Cancellation());
        assertThat(looked.clips()).isEmpty();
        assertThat(looked.gone()).isEmpty();
    }
}
