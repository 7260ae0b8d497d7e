package docksort.desktop.arrivals;

import docksort.arrival.Arrival;
import docksort.desktop.parts.ClipPicture;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.Thumbnails;
import docksort.desktop.workshop.Workshop;
import docksort.media.Rational;
import docksort.strain.PlayRatio;
import docksort.strain.Verdict;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.ToLongFunction;
import javafx.scene.Node;
import javafx.scene.control.TableColumn;
import javafx.scene.layout.StackPane;

/// Columns of the list of clips.
final class ClipColumns {
    private final Workshop workshop;
    private final Thumbnails thumbnails;

    ClipColumns(Workshop workshop, Thumbnails thumbnails) {
        this.workshop = workshop;
        this.thumbnails = thumbnails;
    }

    List<TableColumn<ClipRow, ?>> columns() {
        // What tells clips apart stands first, so that it is seen beside scope and docket.
        return List.of(
                ClipPicture.column(
                        thumbnails,
                        row -> row instanceof ClipRow.Known known ? Optional.of(known.clip()) : Optional.empty(),
                        ClipRow::name),
                Parts.text("Clip", 150, this::name, "mono"),
                Parts.<ClipRow>drawn(
                        "Strain",
                        112,
                        row -> Integer.toString(row.verdict().weight()),
                        ClipRow::verdict,
                        ClipColumns::verdict),
                fact("Codec", 118, ClipRow.Known::codec),
                fact("Depth, chroma", 104, ClipRow.Known::pixels),
                figure(
                        "Raster",
                        96,
                        row -> row.video().map(v -> v.raster().pixels()).orElse(0L),
                        ClipRow.Known::raster),
                figure(
                        "Rate",
                        70,
                        row -> row.video()
                                .map(v -> v.rate()
                                        .exact()
                                        .times(Rational.of(1000))
                                        .rounded())
                                .orElse(0L),
                        ClipRow.Known::rateLabel),
                figure(
                        "Scrub cost",
                        80,
                        row -> row.strain()
                                .scrubCost()
                                .map(c -> c.mean().times(Rational.of(100)).rounded())
                                .orElse(0L),
                        ClipRow.Known::scrub),
                Parts.<ClipRow>drawn("Frames", 112, ClipRow::name, ClipColumns::ribbon),
                fact("Timing", 78, ClipRow.Known::rateKind),
                fact("Structure", 152, ClipRow.Known::structure),
                figure(
                        "Length",
                        72,
                        row -> row.clip()
                                .facts()
                                .seconds()
                                .times(Rational.of(1000))
                                .rounded(),
                        ClipRow.Known::length),
                fact("Timecode", 104, ClipRow.Known::timecode),
                fact("Container", 78, row -> row.clip().facts().container()),
                figure(
                        "Size",
                        78,
                        row -> row.clip().facts().size().bytes(),
                        row -> row.clip().facts().size().label()),
                fact("Differs in", 190, row -> String.join(", ", row.differences())),
                figure(
                        "Plays at",
                        74,
                        row -> playRatio(row)
                                .map(play -> Math.round(play.value() * 1000))
                                .orElse(-1L),
                        row -> playRatio(row).map(play -> play.label() + " ×").orElse("–")),
                fact("Served by", 90, ClipRow.Known::servedBy),
                fact("First reason", 420, row -> row.strain().firstReason()),
                hidden(fact("Reel", 100, row -> row.clip().facts().reel().orElse("–"))),
                hidden(fact("Sound", 150, ClipRow.Known::sound)),
                hidden(fact(
                        "Colour",
                        150,
                        row -> row.video().map(video -> video.colour().label()).orElse("–"))),
                hidden(fact("Shot", 160, row -> row.clip().facts().recordedAt().orElse("–"))),
                hidden(Parts.text("Arrival", 120, this::arrival)),
                hidden(Parts.text("Path", 420, row -> row.path().toString(), "mono")));
    }

    private static <T> TableColumn<ClipRow, T> hidden(TableColumn<ClipRow, T> column) {
        column.setVisible(false);
        return column;
    }

    private String name(ClipRow row) {
        return row instanceof ClipRow.Known known
                ? workshop.views()
                        .view()
                        .get()
                        .map(view -> view.insight().names().of(known.clip()))
                        .orElse(row.name())
                : row.name();
    }

    private String arrival(ClipRow row) {
        return workshop.views()
                .view()
                .get()
                .flatMap(view -> view.arrivals().stream()
                        .filter(arrival -> arrival.id().value().equals(row.arrivalId()))
                        .findFirst())
                .map(Arrival::name)
                .orElse("");
    }

    private Optional<PlayRatio> playRatio(ClipRow.Known row) {
        return workshop.views()
                .view()
                .get()
                .flatMap(view -> view.insight().measured(row.clip()).play());
    }

    private static TableColumn<ClipRow, String> fact(
            String title, double width, Function<ClipRow.Known, String> words) {
        return Parts.text(title, width, row -> switch (row) {
            case ClipRow.Known known -> words.apply(known);
            case ClipRow.Refused refused ->
                title.equals("Codec")
                        ? "unreadable: " + refused.file().problem().why()
                        : "";
        });
    }

    private static TableColumn<ClipRow, Long> figure(
            String title, double width, ToLongFunction<ClipRow.Known> value, Function<ClipRow.Known, String> words) {
        return Parts.number(
                title,
                width,
                row -> row instanceof ClipRow.Known known ? value.applyAsLong(known) : -1,
                row -> row instanceof ClipRow.Known known ? words.apply(known) : "–");
    }

    static Node verdict(ClipRow row) {
        return verdict(row.verdict());
    }

    static Node verdict(Verdict verdict) {
        return switch (verdict) {
            case EASY -> Parts.marked(Mark.bars(1), verdict.label());
            case FAIR -> Parts.marked(Mark.bars(2), verdict.label());
            case HARD -> Parts.marked(Mark.bars(3, "look"), verdict.label(), "look");
            case OUT_OF_REACH -> Parts.marked(Mark.cross("stop"), verdict.label(), "stop");
        };
    }

    private static Node ribbon(ClipRow row) {
        if (row instanceof ClipRow.Known known && known.video().isPresent()) {
            return new FrameRibbon(known.video().get().structure(), 100, 17);
        }
        return new StackPane();
    }
}
