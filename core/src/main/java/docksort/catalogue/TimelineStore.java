package docksort.catalogue;

import docksort.arrival.ClipId;
import docksort.media.FrameRange;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;

/// What the project remembers for its timelines: what they use, pins, which recording somebody said an
/// event means, and what a cut counted on.
public final class TimelineStore {
    private final Jdbi jdbi;
    private final ActivityLog log;

    TimelineStore(Jdbi jdbi, ActivityLog log) {
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

    /// Puts other pins in the place of all there are.
    public void pin(List<Pin> pins, String what) {
        jdbi.useTransaction(h -> {
            Undo before = pinned(h);
            replace(h, pins);
            log.write(h, what, before);
        });
    }

    private static Undo pinned(Handle h) {
        return new Undo.PinsSet(pins(h).stream()
                .map(pin -> List.of(
                        pin.clip().value(),
                        pin.frames().map(FrameRange::toString).orElse(""),
                        pin.order()))
                .toList());
    }

    private static void replace(Handle h, List<Pin> pins) {
        h.execute("DELETE FROM pin");
        pins.forEach(pin -> h.execute(
                "INSERT OR REPLACE INTO pin (clip_id, range_first, range_count, serving) VALUES (?, ?, ?, ?)",
                pin.clip().value(),
                pin.frames().map(FrameRange::first).orElse(0L),
                pin.frames().map(FrameRange::count).orElse(0L),
                pin.order()));
    }

    static Undo takeBack(Handle h, Undo.PinsSet set) {
        Undo now = pinned(h);
        replace(
                h,
                set.before().stream()
                        .map(row -> new Pin(new ClipId(row.get(0)), FrameRange.parse(row.get(1)), row.get(2)))
                        .toList());
        return now;
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
            h.execute("INSERT OR REPLACE INTO said (mention, clip_id) VALUES (?, ?)", mention, clip.value());
            log.write(h, what, before);
        });
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
            h.execute("INSERT OR REPLACE INTO said (mention, clip_id) VALUES (?, ?)", said.mention(), said.before());
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
        jdbi.useTransaction(h -> forms.forEach((clip, form) ->
                h.execute("INSERT OR REPLACE INTO cut_form (clip_id, form) VALUES (?, ?)", clip.value(), form)));
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
        Map<ClipId, List<FrameRange>> found = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT * FROM used ORDER BY clip_id, range_first")
                .map((row, _) -> Map.entry(
                        new ClipId(row.getString("clip_id")),
                        new FrameRange(row.getLong("range_first"), row.getLong("range_count"))))
                .forEach(entry -> found.computeIfAbsent(entry.getKey(), _ -> new ArrayList<>())
                        .add(entry.getValue())));
        return found;
    }

    /// Keeps what timelines use now in the place of what they used before.
    public void use(Map<ClipId, List<FrameRange>> ranges) {
        jdbi.useTransaction(h -> {
            h.execute("DELETE FROM used");
            ranges.forEach((clip, list) -> list.forEach(range -> h.execute(
                    "INSERT INTO used (clip_id, range_first, range_count) VALUES (?, ?, ?)",
                    clip.value(),
                    range.first(),
                    range.count())));
        });
    }
}
