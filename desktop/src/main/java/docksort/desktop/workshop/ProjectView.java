package docksort.desktop.workshop;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Unreadable;
import docksort.catalogue.Activity;
import docksort.catalogue.AsSeen;
import docksort.catalogue.Root;
import docksort.files.Room;
import docksort.sort.LoadSheet;
import docksort.sort.SortBook;
import docksort.stock.Limits;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.strain.Strain;
import docksort.strain.TimelineFormat;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Everything the window shows of a project at one moment. Immutable; a new one replaces it.
///
/// @param aside what a person put aside; it is in none of the other lists
/// @param asideFiles files of all arrivals that are not footage
/// @param handles frames that range copies hold before and after what a timeline uses
/// @param room of the volume that new copies go to
/// @param activity the latest changes, the newest first, read before all else
/// @param insight what is known of clips beside their facts
public record ProjectView(
        String name,
        TimelineFormat format,
        List<Arrival> arrivals,
        List<Clip> clips,
        List<Unreadable> unreadable,
        Aside aside,
        int asideFiles,
        SortBook book,
        Room room,
        long handles,
        LoadSheet sheet,
        List<StockLine> stock,
        ServingOrder order,
        Limits limits,
        List<Root> roots,
        List<Activity> activity,
        Turns turns,
        Insight insight) {
    public ProjectView {
        arrivals = List.copyOf(arrivals);
        clips = List.copyOf(clips);
        unreadable = List.copyOf(unreadable);
        stock = List.copyOf(stock);
        roots = List.copyOf(roots);
        activity = List.copyOf(activity);
    }

    /// What Undo would take back, and what Redo would do again.
    public record Turns(Optional<String> undo, Optional<String> redo) {
        public static final Turns NONE = new Turns(Optional.empty(), Optional.empty());
    }

    /// Clips, and files that cannot be read, that were put aside.
    public record Aside(List<Clip> clips, List<Unreadable> unreadable) {
        public static final Aside NONE = new Aside(List.of(), List.of());

        public Aside {
            clips = List.copyOf(clips);
            unreadable = List.copyOf(unreadable);
        }
    }

    /// What was decided by this view does not sweep away what others did after it.
    public AsSeen seen() {
        return activity.isEmpty() ? AsSeen.NOW : new AsSeen(activity.getFirst().id());
    }

    public Map<ClipId, Strain> strains() {
        var strains = new HashMap<ClipId, Strain>();
        sheet.sorted().forEach(sorted -> strains.put(sorted.clip().id(), sorted.strain()));
        return strains;
    }
}
