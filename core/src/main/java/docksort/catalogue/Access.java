package docksort.catalogue;

import docksort.problem.CoreException.CatalogueUnavailable;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.HandleCallback;
import org.jdbi.v3.core.HandleConsumer;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.JdbiException;
import org.jdbi.v3.core.mapper.RowMapper;
import org.jdbi.v3.core.statement.Query;
import org.jdbi.v3.core.statement.StatementContext;
import org.jdbi.v3.core.statement.StatementCustomizer;
import org.postgresql.PGStatement;

/// The way of all stores to the database, where it is met that a server goes away. What only reads is asked
/// once more when its connection was cut. A transaction that writes begins by taking its turn and leaving a
/// mark; when its connection is cut at any moment, the mark says afterwards whether it took place, so that it
/// is neither lost unsaid nor made twice.
final class Access {
    /// More changed rows than that are read sooner as a whole table.
    private static final int MOST_CHANGED = 2_000;

    private static final int ROWS_AT_ONCE = 2_000;

    /// What the driver takes for "bytes as bytes from the first time on".
    private static final int AS_BYTES = -1;

    private final Jdbi jdbi;
    private final Runnable discard;
    private final String program;
    private final boolean shared;
    private final AtomicLong lastAway = new AtomicLong();

    /// @param discard lets go of connections that nobody uses: where one was cut, the others may have been
    Access(Jdbi jdbi, Runnable discard, String program, boolean shared) {
        this.jdbi = jdbi;
        this.discard = discard;
        this.program = program;
        this.shared = shared;
    }

    /// What waits, for all that is asked on its thread.
    private static final ScopedValue<Patience> PATIENCE = ScopedValue.newInstance();

    /// Who is asked at this moment, on its thread.
    private static final ScopedValue<Access> INSIDE = ScopedValue.newInstance();

    static void waiting(Patience patience, Runnable work) {
        ScopedValue.where(PATIENCE, patience).run(work);
    }

    /// A file does not go away and come back.
    private boolean isAway(JdbiException fault) {
        return shared && DatabaseFaults.isAway(fault);
    }

    private boolean wasCut(JdbiException fault) {
        boolean cut = DatabaseFaults.wasThere(fault);
        if (cut) {
            discard.run();
        }
        return cut;
    }

    private boolean waits(JdbiException fault) {
        lastAway.set(System.nanoTime());
        return PATIENCE.isBound()
                && PATIENCE.get().waits(DatabaseFaults.away(fault).problem());
    }

    /// Whether the server did not answer within this time.
    boolean wasAwayWithin(Duration time) {
        long last = lastAway.get();
        return last != 0 && System.nanoTime() - last < time.toNanos();
    }

    /// Whether this thread is in the middle of asking. What is asked then goes the same way, by the same
    /// connection, and stands or falls with it.
    boolean isInside() {
        return INSIDE.isBound() && INSIDE.get().equals(this);
    }

    /// Reads. What `reading` keeps outside itself must bear being read twice.
    <R, X extends Exception> R withHandle(HandleCallback<R, X> reading) throws X {
        if (isInside()) {
            return jdbi.withHandle(reading);
        }
        return repeated(() -> ScopedValue.where(INSIDE, this).<R, X>call(() -> jdbi.withHandle(reading)));
    }

    /// By a connection of its own: what is asked meanwhile goes by others.
    ///
    /// @param asking bears being done twice
    <R, X extends Exception> R apart(HandleCallback<R, X> asking) throws X {
        return repeated(() -> {
            try (Handle h = jdbi.open()) {
                return asking.withHandle(h);
            }
        });
    }

    /// Reads all rows of a table. Most of the time goes into building the rows: two readers take one half each,
    /// but within a change, which others do not see.
    ///
    /// @param asked what is asked of the database, without a condition
    /// @param bound binds what is named in it
    /// @param rows makes rows of answers, one for each reader
    /// @return in any order
    <T> List<T> whole(String table, String asked, UnaryOperator<Query> bound, Supplier<RowMapper<T>> rows) {
        // An expression, so that the table is read as it lies and not by way of its index.
        String side = " WHERE " + table + ".id || '' %s :middle";
        if (isInside()) {
            return half(asked + side.formatted(">="), "", bound, rows);
        }
        Optional<String> middle = withHandle(h -> h.createQuery(
                        "SELECT id FROM <table> ORDER BY id LIMIT 1 OFFSET" + " (SELECT count(*) / 2 FROM <table>)")
                .define("table", table)
                .mapTo(String.class)
                .findOne());
        return middle.isEmpty()
                ? List.of()
                : together(() -> Stream.of("<", ">=")
                        .parallel()
                        .flatMap(each -> half(asked + side.formatted(each), middle.get(), bound, rows).stream())
                        .toList());
    }

    private <T> List<T> half(String asked, String middle, UnaryOperator<Query> bound, Supplier<RowMapper<T>> rows) {
        HandleCallback<List<T>, RuntimeException> reading = h -> bound.apply(h.createQuery(asked))
                .bind("middle", middle)
                .addCustomizer(LARGE)
                .map(rows.get())
                .list();
        // A server hands out an answer in pieces within a transaction only; in a file, one would keep others waiting.
        return withHandle(h -> shared ? h.inTransaction(reading) : reading.withHandle(h));
    }

    /// Of a large answer, a server sends some rows at a time, and bytes as bytes: it is neither in memory twice,
    /// nor spread over the server's processors, which takes them longer.
    private static final StatementCustomizer LARGE = new StatementCustomizer() {
        @Override
        public void beforeExecution(PreparedStatement asked, StatementContext context) throws SQLException {
            asked.setFetchSize(ROWS_AT_ONCE);
            if (asked.isWrapperFor(PGStatement.class)) {
                asked.unwrap(PGStatement.class).setPrepareThreshold(AS_BYTES);
            }
        }
    };

    /// What is asked by several threads at once waits by the patience of the one that wants all of it.
    private static <R> R together(Supplier<R> asking) {
        while (true) {
            try {
                return asking.get();
            } catch (CatalogueUnavailable e) {
                if (!PATIENCE.isBound() || !PATIENCE.get().waits(e.problem())) {
                    throw e;
                }
            }
        }
    }

    private <R, X extends Exception> R repeated(ScopedValue.CallableOp<R, X> asking) throws X {
        boolean again = shared; // a connection that was cut while nobody used it
        boolean waited = false;
        while (true) {
            try {
                R answer = asking.call();
                over(waited);
                return answer;
            } catch (JdbiException e) {
                if (!isAway(e)) {
                    throw DatabaseFaults.told(e);
                }
                if (!(again && wasCut(e))) {
                    if (!waits(e)) {
                        throw DatabaseFaults.away(e);
                    }
                    waited = true;
                }
                again = false;
            }
        }
    }

    private static void over(boolean waited) {
        if (waited) {
            PATIENCE.get().over();
        }
    }

    <X extends Exception> void useHandle(HandleConsumer<X> reading) throws X {
        this.<Boolean, X>withHandle(h -> {
            reading.useHandle(h);
            return true;
        });
    }

    <X extends Exception> void useTransaction(HandleConsumer<X> change) throws X {
        this.<Boolean, X>inTransaction(h -> {
            change.useHandle(h);
            return true;
        });
    }

    /// Changes, as one transaction. Somebody who waits gets a change that was lost made once more, so that it
    /// must keep nothing outside itself that bears no repeating.
    ///
    /// @throws CatalogueUnavailable when the server went away, and nobody waits for it: says whether the
    ///     change took place
    <R, X extends Exception> R inTransaction(HandleCallback<R, X> change) throws X {
        if (isInside()) {
            return jdbi.inTransaction(h -> {
                turn(h);
                return change.withHandle(h);
            });
        }
        boolean first = true;
        boolean waited = false;
        while (true) {
            var mark = new AtomicLong();
            var begun = new AtomicBoolean();
            var answers = new ArrayList<R>(1);
            try {
                R kept = ScopedValue.where(INSIDE, this)
                        .<R, X>call(() -> jdbi.inTransaction(h -> {
                            mark.set(turn(h));
                            begun.set(true);
                            R answer = change.withHandle(h);
                            answers.add(answer);
                            return answer;
                        }));
                over(waited);
                return kept;
            } catch (JdbiException e) {
                if (!isAway(e)) {
                    throw DatabaseFaults.told(e);
                }
                Optional<Boolean> took = mark.get() == 0 ? Optional.of(false) : tookPlace(mark.get(), e);
                if (took.orElse(false)) {
                    return answers.getFirst();
                }
                if (took.isEmpty()) {
                    throw DatabaseFaults.unknown(e);
                }
                // A change that never began can be made by whoever asked for it.
                boolean again = first && !begun.get() && wasCut(e);
                if (!again) {
                    if (!waits(e)) {
                        throw DatabaseFaults.away(e);
                    }
                    waited = true;
                }
                first = false;
            }
        }
    }

    /// What was written since a turn.
    ///
    /// @param turn the last one there was
    /// @param changed ids of the rows of a table that came, changed or went; empty where that is not known
    record News(long turn, Optional<List<String>> changed) {}

    /// Asks what became of a table, which is in every list that is read afterwards.
    ///
    /// @param last turn that is known, or less than 0
    News since(String table, long last) {
        if (!shared) {
            return withHandle(h -> h.createQuery("SELECT coalesce(max(id), 0) FROM written")
                    .mapTo(Long.class)
                    .map(turn -> new News(turn, turn == last ? Optional.of(List.of()) : Optional.empty()))
                    .one());
        }
        return withHandle(h -> h.createQuery("""
            SELECT (SELECT coalesce(max(id), 0) FROM written),
                ARRAY(SELECT id FROM changed WHERE of_table = :table AND turn > :last AND :last >= 0 LIMIT :most)\
            """)
                .bind("table", table)
                .bind("last", last)
                .bind("most", MOST_CHANGED + 1)
                .map((row, _) -> {
                    long turn = row.getLong(1);
                    List<String> changed = List.of((String[]) row.getArray(2).getArray());
                    boolean all = last >= 0
                            && turn >= last
                            && turn - last < Database.LINES / 2 // older lines may be gone
                            && changed.size() <= MOST_CHANGED;
                    return new News(turn, all ? Optional.of(changed) : Optional.empty());
                })
                .one());
    }

    /// One at a time writes into a schema, and others are told; a file gives turns by itself. One way to the
    /// server and back: everybody waits for what is done between a turn and its end.
    ///
    /// @return number of the mark that stays when the transaction takes place, greater than all before it
    private long turn(Handle h) {
        return h.createQuery(shared ? """
            WITH turn AS MATERIALIZED (SELECT pg_advisory_xact_lock(hashtextextended('docksort ' || current_schema(), 0))),
                told AS MATERIALIZED (SELECT pg_notify(current_schema(), '') FROM turn)
            INSERT INTO written (program) SELECT :program FROM told RETURNING id\
            """ : "INSERT INTO written (program) VALUES (:program) RETURNING id")
                .bind("program", program)
                .mapTo(Long.class)
                .one();
    }

    /// Whether a transaction took place whose end nobody heard of: once its turn is over, its mark is there or
    /// it never will be.
    ///
    /// @return empty when nobody waits until the server answers again
    private Optional<Boolean> tookPlace(long mark, JdbiException lost) {
        boolean again = true;
        while (true) {
            try {
                return Optional.of(jdbi.inTransaction(h -> {
                    if (shared) {
                        h.execute("SELECT pg_advisory_xact_lock(hashtextextended('docksort ' || current_schema(), 0))");
                    }
                    return h.createQuery("SELECT count(*) FROM written WHERE id = :id AND program = :program")
                                    .bind("id", mark)
                                    .bind("program", program)
                                    .mapTo(Long.class)
                                    .one()
                            > 0;
                }));
            } catch (JdbiException e) {
                lost.addSuppressed(e);
                if (!isAway(e) || !((again && wasCut(e)) || waits(e))) {
                    return Optional.empty();
                }
                again = false;
            }
        }
    }
}
