package docksort.desktop.arrivals;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalNames;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Whereabouts;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Rows;
import docksort.desktop.parts.Scope.Group;
import docksort.desktop.parts.Scope.Line;
import docksort.desktop.parts.Searched;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.ScanProgress;
import docksort.desktop.workshop.Views;
import docksort.media.Fingerprint;
import docksort.media.VideoFacts;
import docksort.stock.StockLine;
import docksort.strain.Strain;
import docksort.strain.StrainJudge;
import docksort.strain.Verdict;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.beans.value.ObservableValue;
import javafx.collections.FXCollections;
import javafx.collections.ListChangeListener;
import javafx.collections.ObservableList;

/// What the Arrivals station shows: the rows after scope and filter, the scope's counts, a summary.
public final class ArrivalsModel {
    private static final String ASIDE = "aside";

    private final Views views;
    private final ObservableList<Clip> scanned;
    private final ObservableValue<ScanProgress> scan;
    private final ObservableList<ClipRow> rows = FXCollections.observableArrayList();
    private final StringProperty scope = new SimpleStringProperty("");
    private final StringProperty filter = new SimpleStringProperty("");
    private final ReadOnlyBooleanWrapper changing = new ReadOnlyBooleanWrapper(false);
    private final ReadOnlyStringWrapper summary = new ReadOnlyStringWrapper("");
    private final ReadOnlyStringWrapper number = new ReadOnlyStringWrapper("0");
    private final ReadOnlyStringWrapper line = new ReadOnlyStringWrapper("nothing yet");
    private final ReadOnlyObjectWrapper<List<Group>> groups = new ReadOnlyObjectWrapper<>(List.of());
    private final Map<ClipId, String> volumeOf = new HashMap<>();
    private final Set<Fingerprint> twinned = new HashSet<>();
    private final Searched<ClipRow> searched = new Searched<>(this::words);
    private final Map<String, String> arrivals = new HashMap<>();
    private List<ClipRow> all = List.of();
    private List<ClipRow> aside = List.of();

    /// @param scanned clips that are not part of the project yet
    /// @param scan how far the look through a folder is
    public ArrivalsModel(Views views, ObservableList<Clip> scanned, ObservableValue<ScanProgress> scan) {
        this.views = views;
        this.scanned = scanned;
        this.scan = scan;
        views.each(this::take);
        scanned.addListener((ListChangeListener<Clip>) _ -> views.view().get().ifPresent(this::take));
        scan.subscribe(_ -> tellLine());
        scope.subscribe(_ -> show());
        filter.subscribe(_ -> show());
    }

    private void take(ProjectView view) {
        Map<String, String> served = new HashMap<>();
        for (StockLine stock : view.stock()) {
            served.put(stock.clip().id().value(), stock.served().label());
        }
        var judge = new StrainJudge(view.format(), view.insight().measured());
        var strains = view.strains();
        var found = new ArrayList<ClipRow>();
        Set<ClipId> known = new HashSet<>();
        view.aside().clips().forEach(clip -> known.add(clip.id()));
        for (Clip clip : view.clips()) {
            known.add(clip.id());
            Strain strain = strains.get(clip.id());
            found.add(row(clip, strain == null ? judge.judge(clip) : strain, served, judge, false));
        }
        for (Clip clip : scanned) {
            if (!known.contains(clip.id())) { // some are kept before their folder is looked through
                found.add(row(clip, judge.judge(clip), served, judge, false));
            }
        }
        view.unreadable().forEach(file -> found.add(new ClipRow.Refused(file, false)));
        all = found;
        searched.forget();
        arrivals.clear();
        ArrivalNames.of(view.arrivals()).forEach((id, name) -> arrivals.put(id.value(), name));
        var kept = new ArrayList<ClipRow>();
        view.aside().clips().forEach(clip -> kept.add(row(clip, judge.judge(clip), served, judge, true)));
        view.aside().unreadable().forEach(file -> kept.add(new ClipRow.Refused(file, true)));
        aside = kept;
        takeWhereabouts(view.insight().whereabouts());
        groups.set(groups(view));
        number.set(Integer.toString(found.size() - view.unreadable().size()));
        summary.set(summarise(view));
        tellLine();
        show();
    }

    private static ClipRow row(Clip clip, Strain strain, Map<String, String> served, StrainJudge judge, boolean aside) {
        return new ClipRow.Known(
                clip,
                strain,
                served.getOrDefault(clip.id().value(), "original"),
                judge.timeline().differences(clip.facts()),
                aside);
    }

    private List<Group> groups(ProjectView view) {
        var arrivals = new ArrayList<Line>();
        arrivals.add(new Line("", "Everything", all.size()));
        for (Arrival arrival : view.arrivals()) {
            String id = arrival.id().value();
            arrivals.add(new Line(
                    "arrival " + id,
                    arrival.name(),
                    count(row -> row.arrivalId().equals(id))));
        }
        var volumes = view.insight().whereabouts().volumes().stream()
                .map(on -> new Line(
                        "volume " + on.volume().name(),
                        shortName(on.volume().name()),
                        on.clips().size()))
                .toList();
        var narrow = new ArrayList<>(List.of(
                new Line("hard", "hard to scrub", count(row -> row.verdict() == Verdict.HARD)),
                new Line("differs", "differs from project", count(ArrivalsModel::differs)),
                new Line("look", "need a look", count(ArrivalsModel::needsALook)),
                new Line("twins", "duplicates", count(this::isTwin)),
                new Line("original", "no copy yet", count(ArrivalsModel::isWithoutCopy)),
                new Line("unreadable", "cannot be read", count(row -> row instanceof ClipRow.Refused))));
        if (!aside.isEmpty()) {
            narrow.add(new Line(ASIDE, "put aside", aside.size()));
        }
        return volumes.size() < 2
                ? List.of(new Group("Arrivals", arrivals), new Group("Narrow to", narrow))
                : List.of(
                        new Group("Arrivals", arrivals), new Group("Volumes", volumes), new Group("Narrow to", narrow));
    }

    /// A volume's mount point, without the device it is on.
    static String shortName(String volume) {
        int device = volume.indexOf(" (");
        return device > 0 ? volume.substring(0, device) : volume;
    }

    private boolean isOnVolume(ClipRow row, String name) {
        return row instanceof ClipRow.Known known
                && name.equals(volumeOf.get(known.clip().id()));
    }

    private void takeWhereabouts(Whereabouts whereabouts) {
        volumeOf.clear();
        twinned.clear();
        for (Whereabouts.OnVolume on : whereabouts.volumes()) {
            on.clips().forEach(clip -> volumeOf.put(clip.id(), on.volume().name()));
        }
        whereabouts
                .twins()
                .forEach(twins -> twinned.add(twins.clips().getFirst().fingerprint()));
    }

    private long count(Predicate<ClipRow> test) {
        return all.stream().filter(test).count();
    }

    private static boolean differs(ClipRow row) {
        return row instanceof ClipRow.Known known && known.differs();
    }

    /// What a person has to decide or mend: no stated rate, contradictions, complaints, gaps.
    private static boolean needsALook(ClipRow row) {
        return row instanceof ClipRow.Known known
                && (known.clip().facts().isRateOpen()
                        || !known.clip().facts().complaints().isEmpty()
                        || !known.clip().facts().findings().contradictions().isEmpty());
    }

    private boolean isTwin(ClipRow row) {
        return row instanceof ClipRow.Known known
                && twinned.contains(known.clip().fingerprint());
    }

    private static boolean isWithoutCopy(ClipRow row) {
        return row instanceof ClipRow.Known known && known.servedBy().startsWith("original");
    }

    private void show() {
        Filter.Words words = Filter.words(filter.get());
        List<ClipRow> wanted = (scope.get().equals(ASIDE) ? aside : all)
                .stream()
                        .filter(this::isInScope)
                        .filter(row -> searched.has(row, words))
                        .toList();
        if (!wanted.equals(rows)) {
            changing.set(true);
            Rows.bring(rows, wanted);
            changing.set(false);
        }
    }

    private String words(ClipRow row) {
        return row.words() + " " + arrivals.getOrDefault(row.arrivalId(), "");
    }

    private boolean isInScope(ClipRow row) {
        String key = scope.get();
        return switch (key) {
            case "", ASIDE -> true;
            case "hard" -> row.verdict() == Verdict.HARD;
            case "differs" -> differs(row);
            case "look" -> needsALook(row);
            case "twins" -> isTwin(row);
            case "original" -> isWithoutCopy(row);
            case "unreadable" -> row instanceof ClipRow.Refused;
            default ->
                key.startsWith("volume ")
                        ? isOnVolume(row, key.substring("volume ".length()))
                        : key.equals("arrival " + row.arrivalId());
        };
    }

    private String summarise(ProjectView view) {
        List<VideoFacts> videos = view.clips().stream()
                .flatMap(clip -> clip.facts().video().stream())
                .toList();
        if (videos.isEmpty()) {
            return "";
        }
        long codecs = videos.stream().map(v -> v.codec().family()).distinct().count();
        long rates = videos.stream().map(VideoFacts::rate).distinct().count();
        long aspects = videos.stream().map(VideoFacts::pixelAspect).distinct().count();
        long differ = all.stream().filter(ArrivalsModel::differs).count();
        return codecs
                + (codecs == 1 ? " codec, " : " codecs, ")
                + rates
                + (rates == 1 ? " rate, " : " rates, ")
                + aspects
                + (aspects == 1 ? " pixel aspect" : " pixel aspects")
                + (differ > 0
                        ? "; " + differ + " of " + view.clips().size()
                                + (differ == 1 ? " differs from the project" : " differ from the project")
                        : "");
    }

    private void tellLine() {
        ScanProgress now = scan.getValue();
        if (now.running()) {
            line.set("looking: " + now.done() + " of " + now.all());
            return;
        }
        Optional<ProjectView> view = views.view().get();
        if (view.isEmpty() || all.isEmpty()) {
            line.set("nothing yet");
            return;
        }
        long hard = count(row -> row.verdict() == Verdict.HARD);
        int unreadable = view.get().unreadable().size();
        line.set(hard + " hard" + (unreadable > 0 ? ", " + unreadable + " unreadable" : ""));
    }

    public ObservableList<ClipRow> rows() {
        return rows;
    }

    /// True while the rows are replaced; what is selected is put back when it is false again.
    public ReadOnlyBooleanProperty changing() {
        return changing.getReadOnlyProperty();
    }

    public StringProperty scope() {
        return scope;
    }

    public StringProperty filter() {
        return filter;
    }

    public ReadOnlyStringProperty summary() {
        return summary.getReadOnlyProperty();
    }

    public ReadOnlyStringProperty number() {
        return number.getReadOnlyProperty();
    }

    public ReadOnlyStringProperty line() {
        return line.getReadOnlyProperty();
    }

    public ReadOnlyObjectProperty<List<Group>> groups() {
        return groups.getReadOnlyProperty();
    }

    /// The arrival that the scope is narrowed to.
    public Optional<Arrival> arrivalInScope() {
        return views.view()
                .get()
                .flatMap(view -> view.arrivals().stream()
                        .filter(arrival ->
                                scope.get().equals("arrival " + arrival.id().value()))
                        .findFirst());
    }

    /// Whether there is nothing at all, so that the first step must be explained.
    public boolean isEmpty() {
        return all.isEmpty() && aside.isEmpty();
    }
}
