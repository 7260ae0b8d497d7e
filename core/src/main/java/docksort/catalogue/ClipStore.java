package docksort.catalogue;

import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.media.ClipFacts;
import docksort.media.Described;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.VideoFacts;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.mapper.RowMapper;
import org.jdbi.v3.core.statement.Query;
import org.jdbi.v3.core.statement.StatementContext;

/// Clips with their facts, how they are read, and whether they are there.
public final class ClipStore {
    private final Access jdbi;
    private final ActivityLog log;
    private final ArrivalStore arrivals;
    private final RootStore roots;
    private final String workstation;
    private final Remembered<Ordered> remembered;

    private static final String QUERY = """
        SELECT clip.id, arrival_id, clip.path, stills, parts, facts, structure, fingerprint, read_rate,
            root.path AS root_path, described
        FROM clip JOIN arrival ON arrival.id = arrival_id
        JOIN <here> AS root ON root.id = coalesce(clip.root_id, arrival.root_id)\
        """;

    ClipStore(Access jdbi, ActivityLog log, ArrivalStore arrivals, RootStore roots, String workstation) {
        this.roots = roots;
        this.workstation = workstation;
        this.jdbi = jdbi;
        this.log = log;
        this.arrivals = arrivals;
        this.remembered = new Remembered<>(
                jdbi,
                "clip",
                row -> row.clip.id().value(),
                Comparator.comparingInt(Ordered::arrival).thenComparing(Ordered::path));
    }

    /// Keeps some clips of a scan that goes on. A clip that was there before gets its new facts.
    public void keep(List<Clip> clips, Root root) {
        jdbi.useTransaction(h -> {
            insert(h, clips, root);
            clips.forEach(clip -> PresenceRows.set(h, workstation, clip.id().value(), Presence.ONLINE));
        });
    }

    static void insert(Handle h, List<Clip> clips, Root root) {
        var batch = h.prepareBatch("""
            INSERT INTO clip (id, arrival_id, path, stills, parts, facts, structure, fingerprint)
            VALUES (:id, :arrival, :path, :stills, :parts, :facts, :structure, :fingerprint)
            ON CONFLICT (id) DO UPDATE SET path = excluded.path, stills = excluded.stills,
                parts = excluded.parts, facts = excluded.facts, structure = excluded.structure,
                fingerprint = excluded.fingerprint, root_id = NULL\
            """);
        for (Clip clip : clips) {
            batch.bind("id", clip.id().value())
                    .bind("arrival", clip.arrival().value())
                    .bind("path", CataloguePaths.relative(root, clip.source().head()))
                    .bind("stills", ClipSourceText.stillsText(clip.source()))
                    .bind("parts", ClipSourceText.partsText(clip.source(), root))
                    .bind("facts", Json.text(clip.facts()))
                    .bind(
                            "structure",
                            StructureBytes.write(clip.facts()
                                    .video()
                                    .map(VideoFacts::structure)
                                    .orElse(FrameStructure.NONE)))
                    .bind("fingerprint", clip.fingerprint().toString())
                    .add();
        }
        batch.execute();
    }

    /// All clips, in order of their arrival and path. Their facts are read from what was fetched here
    /// when they are first asked for. A clip that did not change since is the same object as before.
    public List<Clip> all() {
        Map<String, Integer> order = new HashMap<>();
        arrivals.all().forEach(arrival -> order.put(arrival.id().value(), order.size()));
        return remembered
                .now(
                        List.of(order, roots.all()),
                        () -> jdbi.whole("clip", QUERY, this::here, () -> new ClipRows(order)),
                        ids -> jdbi.withHandle(h -> here(h.createQuery(QUERY + " WHERE clip.id = ANY (:ids)"))
                                .bindArray("ids", String.class, List.copyOf(ids))
                                .map(new ClipRows(order))
                                .list()))
                .stream()
                .map(Ordered::clip)
                .toList();
    }

    private Query here(Query query) {
        return query.define("here", RootStore.HERE).bind("here", workstation);
    }

    /// A clip with its place in the list: to sort a hundred thousand rows with all they hold takes the
    /// database longer.
    private record Ordered(int arrival, String path, Clip clip) {}

    private static final class ClipRows implements RowMapper<Ordered> {
        private final Map<String, Integer> order;
        private final Map<String, Path> roots = new HashMap<>();

        ClipRows(Map<String, Integer> order) {
            this.order = order;
        }

        @Override
        public Ordered map(ResultSet row, StatementContext context) throws SQLException {
            String arrival = row.getString(2);
            String path = row.getString(3);
            Path root = roots.computeIfAbsent(row.getString(10), Path::of);
            var facts = new FactsRow(
                    row.getString(6),
                    ByteBuffer.wrap(row.getBytes(7)),
                    Optional.ofNullable(row.getString(9)),
                    Optional.ofNullable(row.getString(11)));
            Clip clip = Clip.withFactsLater(
                    new ClipId(row.getString(1)),
                    new ArrivalId(arrival),
                    ClipSourceText.source(root, path, row.getString(4), row.getString(5)),
                    Fingerprint.parse(row.getString(8)),
                    facts);
            return new Ordered(order.getOrDefault(arrival, 0), path, clip);
        }
    }

    /// What a row has of a clip's facts, which are read when they are first asked for.
    private record FactsRow(String text, ByteBuffer structure, Optional<String> rate, Optional<String> described)
            implements Supplier<ClipFacts> {
        @Override
        public ClipFacts get() {
            ClipFacts facts = Json.read(text, ClipFacts.class);
            byte[] bytes = new byte[structure.remaining()];
            structure.duplicate().get(bytes);
            FrameStructure frames = StructureBytes.read(bytes);
            ClipFacts whole = facts.withVideo(facts.video().map(video -> video.withStructure(frames)));
            ClipFacts read = rate.map(chosen -> whole.interpretedAt(FrameRate.parse(chosen)))
                    .orElse(whole);
            return described
                    .map(said -> read.describedAs(Json.read(said, Described.class)))
                    .orElse(read);
        }
    }

    /// Says how to read clips that state no rate; empty takes it back.
    public void readAt(List<ClipId> clips, Optional<FrameRate> rate, String what) {
        jdbi.useTransaction(h -> {
            var before = new LinkedHashMap<String, String>();
            for (ClipId clip : clips) {
                before.put(clip.value(), readRate(h, clip.value()));
                setReadRate(h, clip.value(), rate.map(FrameRate::toString).orElse(""));
            }
            log.write(h, what, new Undo.ReadAt(before));
        });
    }

    /// What somebody said of a clip that cannot be decoded here.
    public Described described(ClipId clip) {
        String said = jdbi.withHandle(h -> described(h, clip.value()));
        return said.isEmpty() ? Described.NOTHING : Json.read(said, Described.class);
    }

    private static String described(Handle h, String clip) {
        return h.createQuery("SELECT coalesce(described, '') FROM clip WHERE id = :id")
                .bind("id", clip)
                .mapTo(String.class)
                .findOne()
                .orElse("");
    }

    /// Says of clips what cannot be read from them, instead of what was said before.
    public void describe(Map<Described, List<ClipId>> said, String what) {
        jdbi.useTransaction(h -> {
            var before = new LinkedHashMap<String, String>();
            said.forEach((words, clips) -> clips.forEach(clip -> {
                before.put(clip.value(), described(h, clip.value()));
                setDescribed(h, clip.value(), Json.text(words));
            }));
            log.write(h, what, new Undo.DescribedAs(before));
        });
    }

    private static void setDescribed(Handle h, String clip, String said) {
        h.execute("UPDATE clip SET described = nullif(?, '') WHERE id = ?", said, clip);
    }

    private static String readRate(Handle h, String clip) {
        return h.createQuery("SELECT coalesce(read_rate, '') FROM clip WHERE id = :id")
                .bind("id", clip)
                .mapTo(String.class)
                .findOne()
                .orElse("");
    }

    private static void setReadRate(Handle h, String clip, String rate) {
        h.execute("UPDATE clip SET read_rate = nullif(?, '') WHERE id = ?", rate, clip);
    }

    // Measurements

    /// Keeps counts and lengths of a clip that were only stated before. Those of a clip that is read at a
    /// chosen rate are of that rate, and are not kept.
    public void measured(Clip clip) {
        jdbi.useTransaction(h -> h.createUpdate(
                        "UPDATE clip SET facts = :facts WHERE id = :id AND read_rate IS NULL AND fingerprint ="
                                + " :fingerprint")
                .bind("facts", Json.text(clip.facts()))
                .bind("id", clip.id().value())
                .bind("fingerprint", clip.fingerprint().toString())
                .execute());
    }

    /// Originals that are not online on this workstation; all others are.
    public Map<ClipId, Presence> presence() {
        Map<ClipId, Presence> found = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT clip_id, state, note FROM presence WHERE workstation = :here")
                .bind("here", workstation)
                .map((row, _) -> Map.entry(
                        new ClipId(row.getString(1)),
                        new Presence(Presence.State.valueOf(row.getString(2)), row.getString(3))))
                .forEach(entry -> found.put(entry.getKey(), entry.getValue())));
        return found;
    }

    /// What a look at the disk found of originals. Not a change a person made, so not in the log.
    public void note(Map<ClipId, Presence> presence) {
        jdbi.useTransaction(
                h -> presence.forEach((clip, state) -> PresenceRows.set(h, workstation, clip.value(), state)));
    }

    static Undo takeBack(Handle h, Undo.DescribedAs described) {
        var now = new LinkedHashMap<String, String>();
        described.before().forEach((clip, said) -> {
            now.put(clip, described(h, clip));
            setDescribed(h, clip, said);
        });
        return new Undo.DescribedAs(now);
    }

    static Undo takeBack(Handle h, Undo.ReadAt readAt) {
        var now = new LinkedHashMap<String, String>();
        readAt.before().forEach((clip, rate) -> {
            now.put(clip, readRate(h, clip));
            setReadRate(h, clip, rate);
        });
        return new Undo.ReadAt(now);
    }
}
