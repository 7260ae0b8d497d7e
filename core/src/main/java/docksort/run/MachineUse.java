package docksort.run;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import oshi.SystemInfo;
import oshi.hardware.PowerSource;
import oshi.software.os.OSProcess;
import oshi.software.os.OperatingSystem;

/// Whether others need the machine: by the processor time of programs that are not ours, and by its battery.
///
/// Ours are this program and what it started. What others use is counted from one look to the next.
public final class MachineUse implements OtherWork {
    /// Part of all processors from which on others need the machine. Common practice, no source.
    private static final double BUSY = 0.25;

    private final SystemInfo system = new SystemInfo();
    private final long own = ProcessHandle.current().pid();
    private Map<Integer, Long> before = Map.of();
    private long lookedNanos;
    private int busyLooks;
    private int idleLooks;
    private boolean busy;

    @Override
    public synchronized Optional<String> inTheWay() {
        if (isOnBattery()) {
            return Optional.of("the machine runs on its battery");
        }
        double others = others();
        busyLooks = others > BUSY ? busyLooks + 1 : 0;
        idleLooks = others > BUSY ? 0 : idleLooks + 1;
        // A moment of work does not stop a night's run, and a moment of rest does not begin it anew.
        busy = busy ? idleLooks < 3 : busyLooks >= 2;
        return busy
                ? Optional.of("the machine is used (%d %% of its processors)".formatted(Math.round(others * 100)))
                : Optional.empty();
    }

    private boolean isOnBattery() {
        List<PowerSource> sources = system.getHardware().getPowerSources();
        return !sources.isEmpty()
                && sources.stream().anyMatch(PowerSource::isDischarging)
                && sources.stream().noneMatch(PowerSource::isPowerOnLine);
    }

    /// Part of all processors that other programs used since the last look, 0 at the first.
    private double others() {
        List<OSProcess> all =
                system.getOperatingSystem().getProcesses(null, OperatingSystem.ProcessSorting.NO_SORTING, 0);
        Map<Integer, Integer> parents = new HashMap<>();
        all.forEach(process -> parents.put(process.getProcessID(), process.getParentProcessID()));
        Map<Integer, Long> now = new HashMap<>();
        long used = 0;
        for (OSProcess process : all) {
            int id = process.getProcessID();
            if (!isOurs(id, parents)) {
                long millis = process.getKernelTime() + process.getUserTime();
                now.put(id, millis);
                used += before.containsKey(id) ? Math.max(0, millis - before.get(id)) : 0;
            }
        }
        long nanos = System.nanoTime();
        double millis = (nanos - lookedNanos) / 1e6;
        boolean first = before.isEmpty();
        before = now;
        lookedNanos = nanos;
        return first ? 0 : used / millis / Runtime.getRuntime().availableProcessors();
    }

    private boolean isOurs(int process, Map<Integer, Integer> parents) {
        Integer id = process;
        for (int steps = 0; id != null && id > 0 && steps < 32; steps++) {
            if (id == own) {
                return true;
            }
            id = parents.get(id);
        }
        return false;
    }
}
