package docksort.sort;

import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Where a copy goes, as folders below the folder for copies and a file name.
public final class CopyPlace {
    private CopyPlace() {}

    /// @param arrivals names of arrivals
    /// @return folders, then the file's name with its ending; none made safe for file systems yet
    static List<String> of(PlannedCopy copy, Map<ArrivalId, String> arrivals) {
        String arrival = arrivals.getOrDefault(copy.clip().arrival(), "arrival");
        var place = new ArrayList<String>(of(copy, arrival, "", List.of()));
        if (copy.recipe().placing() == Placing.BESIDE) {
            place.addFirst(arrival);
        }
        return place;
    }

    /// @param arrival the arrival's name
    /// @param root the name of the root its arrival lies below
    /// @param folders the folders of the arrival that the original lies in
    public static List<String> of(PlannedCopy copy, String arrival, String root, List<String> folders) {
        Recipe recipe = copy.recipe();
        Clip clip = copy.clip();
        CopyForm form = copy.form().orElseThrow();
        var place = new ArrayList<String>();
        if (recipe.placing() == Placing.BY_ROOT) {
            place.add(root.isEmpty() ? "root" : root);
        }
        place.add(recipe.kind().label());
        switch (recipe.placing()) {
            case BY_ARRIVAL, BY_ROOT -> place.add(arrival);
            case MIRRORED -> {
                place.add(arrival);
                place.addAll(folders);
            }
            case ONE_FOLDER, BESIDE -> {}
        }
        Optional<FrameRange> range = form.range();
        String stretch = range.map(r -> "_" + r.first()).orElse("");
        place.add(Naming.fill(recipe, clip, form, arrival) + stretch + "."
                + form.wrapper().ending());
        return place;
    }

    /// The folder beside an arrival for copies that stay on the volume of their originals.
    public static Path beside(Path arrival) {
        return arrival.resolveSibling(arrival.getFileName() + " copies");
    }
}
