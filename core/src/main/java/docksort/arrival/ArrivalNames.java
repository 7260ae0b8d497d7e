package docksort.arrival;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/// Names of arrivals by which their copies are told apart; a second one of the same name gets a number.
public final class ArrivalNames {
    private ArrivalNames() {}

    public static Map<ArrivalId, String> of(List<Arrival> arrivals) {
        Map<ArrivalId, String> names = new HashMap<>();
        Map<String, Integer> seen = new HashMap<>();
        for (Arrival arrival : arrivals) {
            int n = seen.merge(arrival.name().toLowerCase(Locale.ROOT), 1, Integer::sum);
            names.put(arrival.id(), n == 1 ? arrival.name() : arrival.name() + " " + n);
        }
        return names;
    }
}
