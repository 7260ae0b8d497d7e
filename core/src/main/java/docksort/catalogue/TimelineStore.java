package docksort.catalogue;

import docksort.arrival.ClipId;
import docksort.media.FrameRange;
import docksort.problem.CoreException.ChangedMeanwhile;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jdbi.v3.core.Handle;

/// What the project remembers for its timelines: what they use, pins, which recording somebody said an
/// event means, and what a cut counted on.
public final class TimelineStore {
    private final Access jdbi;
    private final ActivityLog log;

    TimelineStore(Access jdbi, ActivityLog log) {
        this.jdbi = jdbi;
        this.log = log;
    }

    public List<Pin> pins() {
        return jdbi.withHandle(TimelineStore::pins);
    }

    private static List<Pin> pins(Handle h) {
        return h.createQuery("SELECT * FROM pin ORDER BY clip_id, range_first")
                .map((row, _) -> new Pin(
                        new ClipId(row.getString("clip_id")),
                        row.getLong("range_count") == 0
                                ? Optional.empty()
                                : Optional.of(new FrameRange(row.getLong("range_first"), row.getLong("range_count"))),
                        row.getString("serving")))
                .list();
    }

    /// Takes pins away and sets others, as one change; all others stay as they are.
    ///
    /// @param gone which of the pins there are go
    public void pin(List<Pin> pins, Predicate<Pin> gone, String what) {
        pin(pins, gone, what, AsSeen.NOW);
    }

    /// The same, where nobody else pinned one of the clips otherwise since they were seen.
    ///
    /// @throws ChangedMeanwhile when somebody did; then nothing is changed
    public void pin(List<Pin> pins, Predicate<Pin> gone, String what, AsSeen seen) {
        jdbi.useTransaction(h -> {
            log.refuseUnseen(
                    h,
                    seen,
                    Stream.concat(pins.stream(), pins(h).stream().filter(gone))
                            .map(pin -> Undo.PIN + pin.clip().value())
                            .collect(Collectors.toSet()),
                    what);
            var set = new LinkedHashMap<PinKey, Pin>();
            pins.forEach(pin -> set.put(PinKey.of(pin), pin));
            List<PinKey> cleared = pins(h).stream()
                    .filter(gone)
                    .map(PinKey::of)
                    .filter(key -> !set.containsKey(key))
                    .toList();
            log.write(h, what, change(h, set, cleared));
        });
    }

    /// What a pin is of.
    private record PinKey(String clip, long first, long count) {
        static PinKey of(Pin pin) {
            return new PinKey(
                    pin.clip().value(),
                    pin.frames().map(FrameRange::first).orElse(0L),
                    pin.frames().map(FrameRange::count).orElse(0L));
        }
    }

    private static Undo change(Handle h, Map<PinKey, Pin> set, List<PinKey> cleared) {
        Map<PinKey, Pin> before = new HashMap<>();
        pins(h).forEach(pin -> before.put(PinKey.of(pin), pin));
        var back = new ArrayList<Pin>();
        var away = new ArrayList<Pin>();
        for (PinKey key : cleared) {
            Optional.ofNullable(before.get(key)).ifPresent(back::add);
            h.execute(
                    "DELETE FROM pin WHERE clip_id = ? AND range_first = ? AND range_count = ?",
                    key.clip,
                    key.first,
                    key.count);
        }
        set.forEach((key, pin) -> {
            Optional.ofNullable(before.get(key)).ifPresentOrElse(back::add, () -> away.add(pin));
            h.execute(
                    "INSERT INTO pin (clip_id, range_first, range_count, serving) VALUES (?, ?, ?, ?) ON CONFLICT"
                            + " (clip_id, range_first, range_count) DO UPDATE SET serving = excluded.serving",
                    key.clip,
                    key.first,
                    key.count,
                    pin.order());
        });
        return new Undo.PinsChanged(words(back), words(away));
    }

    private static List<List<String>> words(List<Pin> pins) {
        return pins.stream()
                .map(pin -> List.of(
                        pin.clip().value(),
                        pin.frames().map(FrameRange::toString).orElse(""),
                        pin.order()))
                .toList();
    }

    private static Map<PinKey, Pin> read(List<List<String>> words) {
        var pins = new LinkedHashMap<PinKey, Pin>();
        words.stream()
                .map(row -> new Pin(new ClipId(row.get(0)), FrameRange.parse(row.get(1)), row.get(2)))
                .forEach(pin -> pins.put(PinKey.of(pin), pin));
        return pins;
    }

    static Undo takeBack(Handle h, Undo.PinsChanged changed) {
        return change(
                h, read(changed.set()), List.copyOf(read(changed.cleared()).keySet()));
    }

    static Undo takeBack(Handle h, Undo.PinsSet set) {
        Map<PinKey, Pin> before = read(set.before());
        return change(
                h,
                before,
                pins(h).stream()
                        .map(PinKey::of)
                        .filter(key -> !before.containsKey(key))
                        .toList());
    }

    /// Which recordings somebody said mentions mean, by the mention's key.
    public Map<String, ClipId> said() {
        Map<String, ClipId> said = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT mention, clip_id FROM said")
                .map((row, _) -> Map.entry(row.getString(1), new ClipId(row.getString(2))))
                .forEach(entry -> said.put(entry.getKey(), entry.getValue())));
        return said;
    }

    /// Keeps that a mention means a recording.
    public void say(String mention, ClipId clip, String what) {
        jdbi.useTransaction(h -> {
            Undo before = said(h, mention);
            setSaid(h, mention, clip.value());
            log.write(h, what, before);
        });
    }

    private static void setSaid(Handle h, String mention, String clip) {
        h.execute(
                "INSERT INTO said (mention, clip_id) VALUES (?, ?)"
                        + " ON CONFLICT (mention) DO UPDATE SET clip_id = excluded.clip_id",
                mention,
                clip);
    }

    private static Undo said(Handle h, String mention) {
        return new Undo.Said(
                mention,
                h.createQuery("SELECT clip_id FROM said WHERE mention = ?")
                        .bind(0, mention)
                        .mapTo(String.class)
                        .findOne()
                        .orElse(""));
    }

    static Undo takeBack(Handle h, Undo.Said said) {
        Undo now = said(h, said.mention());
        if (said.before().isEmpty()) {
            h.execute("DELETE FROM said WHERE mention = ?", said.mention());
        } else {
            setSaid(h, said.mention(), said.before());
        }
        return now;
    }

    /// What cuts counted on, by clip.
    public Map<ClipId, String> forms() {
        Map<ClipId, String> forms = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT clip_id, form FROM cut_form")
                .map((row, _) -> Map.entry(new ClipId(row.getString(1)), row.getString(2)))
                .forEach(entry -> forms.put(entry.getKey(), entry.getValue())));
        return forms;
    }

    public void keepForms(Map<ClipId, String> forms) {
        jdbi.useTransaction(h -> forms.forEach((clip, form) -> h.execute(
                "INSERT INTO cut_form (clip_id, form) VALUES (?, ?)"
                        + " ON CONFLICT (clip_id) DO UPDATE SET form = excluded.form",
                clip.value(),
                form)));
    }

    /// Notes that a timeline's file was replaced, so that it can be put back.
    ///
    /// @param kept file with what it was before
    /// @param written checksum of what it is now
    public void replaced(String file, String kept, String written, String what) {
        jdbi.useTransaction(h -> log.write(h, what, new Undo.TimelineReplaced(file, kept, written)));
    }

    // What timelines use

    public Map<ClipId, List<FrameRange>> used() {
        return jdbi.withHandle(h -> {
            Map<ClipId, List<FrameRange>> found = new HashMap<>();
            h.createQuery("SELECT * FROM used ORDER BY clip_id, range_first")
                    .map((row, _) -> Map.entry(
                            new ClipId(row.getString("clip_id")),
                            new FrameRange(row.getLong("range_first"), row.getLong("range_count"))))
                    .forEach(entry -> found.computeIfAbsent(entry.getKey(), _ -> new ArrayList<>())
                            .add(entry.getValue()));
            return found;
        });
    }

    /// Keeps what timelines use now. Only what differs from before is written.
    public void use(Map<ClipId, List<FrameRange>> ranges) {
        jdbi.useTransaction(h -> {
            Set<Use> now = new LinkedHashSet<>();
            ranges.forEach((clip, list) ->
                    list.forEach(range -> now.add(new Use(clip.value(), range.first(), range.count()))));
            for (Use before : h.createQuery("SELECT * FROM used")
                    .map((row, _) ->
                            new Use(row.getString("clip_id"), row.getLong("range_first"), row.getLong("range_count")))
                    .list()) {
                if (!now.remove(before)) {
                    h.execute("DELETE FROM used WHERE clip_id = ? AND range_first = ?", before.clip, before.first);
                }
            }
            for (Use use : now) {
                h.execute(
                        "INSERT INTO used (clip_id, range_first, range_count) VALUES (?, ?, ?)",
                        use.clip,
                        use.first,
                        use.count);
            }
        });
    }

    private record Use(String clip, long first, long count) {}
}
