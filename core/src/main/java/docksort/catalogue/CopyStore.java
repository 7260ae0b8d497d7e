package docksort.catalogue;

import docksort.media.FrameRange;
import java.nio.file.Path;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.statement.PreparedBatch;
import org.jdbi.v3.core.statement.Update;

/// Copies, and their places in the queue.
public final class CopyStore {
    private final Access jdbi;
    private final ActivityLog log;
    private final RootStore roots;
    private final Remembered<WorkingCopy> remembered;

    CopyStore(Access jdbi, ActivityLog log, RootStore roots) {
        this.jdbi = jdbi;
        this.log = log;
        this.roots = roots;
        this.remembered = new Remembered<>(
                jdbi,
                "copy",
                WorkingCopy::id,
                Comparator.comparingLong(WorkingCopy::position).thenComparing(WorkingCopy::id));
    }

    /// All copies, in order of the queue.
    public List<WorkingCopy> all() {
        Map<String, Path> paths = new HashMap<>();
        roots.all().forEach(root -> paths.put(root.id(), root.path()));
        return remembered.now(
                paths,
                () -> jdbi.whole(
                        "copy",
                        CopyRows.QUERY,
                        query -> query.bind("here", roots.workstation()),
                        () -> new CopyRows(paths)),
                this::of);
    }

    /// Some copies as they are now; those that are gone are left out.
    public List<WorkingCopy> of(Collection<String> ids) {
        if (ids.isEmpty()) {
            return List.of();
        }
        Map<String, Path> paths = new HashMap<>();
        roots.all().forEach(root -> paths.put(root.id(), root.path()));
        return jdbi.withHandle(h -> h.createQuery(CopyRows.QUERY + " WHERE copy.id IN (<ids>)")
                .bind("here", roots.workstation())
                .bindList("ids", List.copyOf(ids))
                .map(new CopyRows(paths))
                .list());
    }

    /// Puts copies into the queue as one change, behind what is in it. One that was there already is put in
    /// anew.
    public void enqueue(List<WorkingCopy> copies, String what) {
        List<Root> known = roots.all();
        jdbi.useTransaction(h -> {
            forgetFound(h, copies);
            long position = h.createQuery("SELECT coalesce(max(position), 0) FROM copy")
                    .mapTo(Long.class)
                    .one();
            for (WorkingCopy copy : copies) {
                insert(h, copy.withPosition(++position), CataloguePaths.root(known, copy.rootId()));
            }
            log.write(h, what);
        });
    }

    /// What was found of files before says nothing of those that are meant now.
    static void forgetFound(Handle h, List<WorkingCopy> copies) {
        each(h, "DELETE FROM copy_presence WHERE copy_id = ?", copies, (batch, copy) -> batch.add(copy.id()));
    }

    static void insert(Handle h, WorkingCopy copy, Root root) {
        Update insert = h.createUpdate("""
            INSERT INTO copy (id, clip_id, kind, recipe_id, root_id, path, state, note, source_fingerprint,
                range_first, range_count, bytes, modified_millis, width, height, codec, recipe_mark, fingerprint, holes,
                least_alike, whole_sum, read_millis, damaged, stopped, served_millis, on_trust, position)
            VALUES (:id, :clip, :kind, :recipe, :root, :path, :state, :note, :source,
                :first, :count, :bytes, :modified, :width, :height, :codec, :mark, :fingerprint, :holes,
                :least, :sum, :read, :damaged, :stopped, :served, :trust, :position)
            ON CONFLICT (id) DO UPDATE SET state = excluded.state, note = excluded.note,
                source_fingerprint = excluded.source_fingerprint, position = excluded.position\
            """);
        bindPlace(insert, copy, root)
                .bind("clip", copy.clip().value())
                .bind("kind", copy.kind().name())
                .bind("recipe", copy.recipeId())
                .bind("root", copy.rootId())
                .bind("source", copy.source().toString())
                .bind("first", copy.range().map(FrameRange::first).orElse(0L))
                .bind("count", copy.range().map(FrameRange::count).orElse(0L))
                .bind("stopped", copy.service().stopped())
                .bind("served", copy.service().lastMillis())
                .bind("trust", copy.service().onTrust())
                .bind("position", copy.position())
                .bind("read", copy.place().whole().readMillis())
                .bind("damaged", copy.place().whole().damaged())
                .execute();
    }

    /// What a change of a copy keeps as well as a new one.
    private static Update bindPlace(Update row, WorkingCopy copy, Root root) {
        return row.bind("id", copy.id())
                .bind("path", CataloguePaths.relative(root, copy.file()))
                .bind("state", copy.state().name())
                .bind("note", copy.note())
                .bind("bytes", copy.place().bytes())
                .bind("modified", copy.place().modifiedMillis())
                .bind("width", copy.place().width())
                .bind("height", copy.place().height())
                .bind("codec", copy.place().codec())
                .bind("mark", copy.place().recipeMark())
                .bind("fingerprint", copy.place().fingerprint())
                .bind("holes", copy.place().holes())
                .bind("least", copy.place().leastAlike().orElse(-1L))
                .bind("sum", copy.place().whole().sum());
    }

    /// Keeps the state, note and place of copies that are in the catalogue. One that was made with holes
    /// serves only when somebody says so; one that was made anew without them serves like any other. One
    /// that was not found here as it was made counts as that on this workstation alone.
    public void update(List<WorkingCopy> copies) {
        update(copies, "", "");
    }

    /// @param only what else has to hold of a row, where it may name a program as `:worker`
    void update(List<WorkingCopy> copies, String only, String worker) {
        List<Root> known = roots.all();
        jdbi.useTransaction(h -> {
            for (WorkingCopy copy : copies) {
                if (copy.state() == CopyState.MISSING || copy.state() == CopyState.SUSPECT) {
                    notFound(h, copy);
                } else {
                    update(h, copy, CataloguePaths.root(known, copy.rootId()), only, worker);
                }
            }
        });
    }

    private void notFound(Handle h, WorkingCopy copy) {
        h.createUpdate("""
            INSERT INTO copy_presence (copy_id, workstation, state, note)
            SELECT id, :here, :state, :note FROM copy WHERE id = :id
            ON CONFLICT (copy_id, workstation) DO UPDATE SET state = excluded.state, note = excluded.note\
            """)
                .bind("here", roots.workstation())
                .bind("state", copy.state().name())
                .bind("note", copy.note())
                .bind("id", copy.id())
                .execute();
    }

    /// Once its file is another one, what others found of the one before says nothing any more.
    private void update(Handle h, WorkingCopy copy, Root root, String only, String worker) {
        h.createUpdate("""
            DELETE FROM copy_presence WHERE copy_id = :id AND (workstation = :here OR EXISTS
                (SELECT 1 FROM copy WHERE id = :id AND (bytes <> :bytes OR modified_millis <> :modified)))\
            """)
                .bind("id", copy.id())
                .bind("here", roots.workstation())
                .bind("bytes", copy.place().bytes())
                .bind("modified", copy.place().modifiedMillis())
                .execute();
        Update update = h.createUpdate("""
            UPDATE copy SET path = :path, state = :state, note = :note, bytes = :bytes, modified_millis = :modified,
                width = :width, height = :height, codec = :codec, recipe_mark = :mark,
                fingerprint = :fingerprint, stopped = CASE
                    WHEN :holes AND state IN ('WAITING', 'MAKING', 'CHECKING') AND :state = 'READY_WITH_HOLES'
                    THEN TRUE
                    WHEN holes AND NOT :holes THEN FALSE
                    ELSE stopped END,
                holes = :holes, least_alike = :least,
                whole_sum = CASE WHEN :sum <> '' OR fingerprint <> :fingerprint THEN :sum ELSE whole_sum END,
                read_millis = CASE WHEN fingerprint <> :fingerprint OR modified_millis <> :modified THEN 0
                    ELSE read_millis END,
                damaged = damaged AND fingerprint = :fingerprint AND modified_millis = :modified
                WHERE id = :id <only>\
            """).define("only", only);
        if (!only.isEmpty()) {
            update.bind("worker", worker);
        }
        bindPlace(update, copy, root).execute();
    }

    /// Keeps what reading a copy's file whole again came to, unless the copy is another one by now.
    ///
    /// @param copy as it was when it was read
    /// @return false when it is another one; nothing is kept then
    public boolean readAgain(WorkingCopy copy, WorkingCopy.Whole found) {
        return jdbi.inTransaction(h -> h.createUpdate("""
            UPDATE copy SET whole_sum = :sum, read_millis = :read, damaged = :damaged
            WHERE id = :id AND bytes = :bytes AND modified_millis = :modified AND fingerprint = :fingerprint\
            """)
                        .bind("sum", found.sum())
                        .bind("read", found.readMillis())
                        .bind("damaged", found.damaged())
                        .bind("id", copy.id())
                        .bind("bytes", copy.place().bytes())
                        .bind("modified", copy.place().modifiedMillis())
                        .bind("fingerprint", copy.place().fingerprint())
                        .execute()
                > 0);
    }

    /// Takes copies out of the catalogue. Their files, where there are some, stay.
    public void forget(List<WorkingCopy> copies) {
        jdbi.useTransaction(
                h -> each(h, "DELETE FROM copy WHERE id = ?", copies, (batch, copy) -> batch.add(copy.id())));
    }

    /// Brings copies into this order, among the places in the queue that they have now.
    public void reorder(List<String> ids) {
        jdbi.useTransaction(h -> {
            Map<String, Long> positions = new HashMap<>();
            h.createQuery("SELECT id, position FROM copy")
                    .map((row, _) -> Map.entry(row.getString(1), row.getLong(2)))
                    .forEach(row -> positions.put(row.getKey(), row.getValue()));
            List<String> known = ids.stream().filter(positions::containsKey).toList();
            List<Long> places = known.stream().map(positions::get).sorted().toList();
            var next = places.iterator();
            each(h, "UPDATE copy SET position = ? WHERE id = ?", known, (batch, id) -> batch.add(next.next(), id));
        });
    }

    private static <T> void each(Handle h, String statement, List<T> rows, BiConsumer<PreparedBatch, T> add) {
        if (!rows.isEmpty()) {
            PreparedBatch batch = h.prepareBatch(statement);
            rows.forEach(row -> add.accept(batch, row));
            batch.execute();
        }
    }
}
