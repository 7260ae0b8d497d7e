package docksort.catalogue;

import java.time.Duration;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.locks.ReentrantLock;
import org.jdbi.v3.core.Handle;

/// Who makes which copy of a shared project: one machine at a time. A claim is renewed while its program
/// lives; when that stops, another machine may take it over, and the first one gives no file a name any
/// more, however late it wakes up. In a file of its own a project has one run at a time, and every claim
/// is granted.
public final class ClaimStore {
    /// How long a claim holds that nobody renews.
    public static final Duration LASTS = Duration.ofSeconds(60);

    /// After the database was away nobody had shown for a while that he lives: others get time to do so before
    /// they are taken for stopped.
    private static final Duration GRACE = Duration.ofSeconds(15);

    private static final long LONG = Duration.ofDays(1).toSeconds();

    private static final String LIVES = "renewed_at > clock_timestamp() - make_interval(secs => :lasts)";

    private final Access jdbi;
    private final CopyStore copies;
    private final String workstation;
    private final boolean shared;
    private final String worker;
    private final Map<String, Long> tokens = new ConcurrentHashMap<>();
    private final ReentrantLock publishing = new ReentrantLock();

    ClaimStore(Access jdbi, CopyStore copies, String workstation, String worker, boolean shared) {
        this.worker = worker;
        this.jdbi = jdbi;
        this.copies = copies;
        this.workstation = workstation;
        this.shared = shared;
    }

    /// What became of the wish to make a copy.
    public sealed interface Claim {
        /// This program makes it.
        record Ours() implements Claim {}

        /// @param workstation makes it now
        record Theirs(String workstation) implements Claim {}

        /// Nobody has to make it any more.
        record Gone() implements Claim {}
    }

    private long lasts() {
        return jdbi.wasAwayWithin(GRACE) ? LONG : LASTS.toSeconds();
    }

    /// Takes copies for this program, where nobody else makes them.
    public Map<String, Claim> take(List<String> ids) {
        if (!shared) {
            Map<String, Claim> all = new HashMap<>();
            ids.forEach(id -> all.put(id, new Claim.Ours()));
            return all;
        }
        return ids.isEmpty() ? Map.of() : jdbi.apart(h -> take(h, ids));
    }

    /// Bears being done twice: who has a claim gets it again.
    private Map<String, Claim> take(Handle h, List<String> ids) {
        Map<String, Claim> claims = new HashMap<>();
        h.begin(); // no turn: nobody who plans waits for those who make
        List<String> free = notInHand(h, ids);
        if (!free.isEmpty()) {
            taken(h, free).forEach((id, token) -> {
                tokens.put(id, token);
                claims.put(id, new Claim.Ours());
            });
        }
        h.commit();
        ids.stream().filter(id -> !claims.containsKey(id)).forEach(id -> claims.put(id, notOurs(h, id)));
        return claims;
    }

    /// Those without a claim, and those whose claim nobody has in hand at this moment.
    private static List<String> notInHand(Handle h, List<String> ids) {
        Set<String> claimed = h.createQuery("SELECT copy_id FROM copy_claim WHERE copy_id IN (<ids>)")
                .bindList("ids", ids)
                .mapTo(String.class)
                .set();
        Set<String> lockable = h.createQuery(
                        "SELECT copy_id FROM copy_claim WHERE copy_id IN (<ids>) FOR UPDATE SKIP LOCKED")
                .bindList("ids", ids)
                .mapTo(String.class)
                .set();
        return ids.stream()
                .filter(id -> !claimed.contains(id) || lockable.contains(id))
                .toList();
    }

    /// New claims and those that lapsed. A copy that was made in the meantime is let go again: only now that
    /// its claim is held does its state stay.
    private Map<String, Long> taken(Handle h, List<String> ids) {
        Map<String, Long> taken = new HashMap<>();
        h.createQuery("""
            INSERT INTO copy_claim (copy_id, workstation, worker, token, renewed_at)
            SELECT id, :here, :worker, nextval('claim_token'), clock_timestamp() FROM copy
            WHERE id IN (<ids>) AND state IN ('WAITING', 'MAKING', 'CHECKING')
            ON CONFLICT (copy_id) DO UPDATE SET workstation = excluded.workstation, worker = excluded.worker,
                token = excluded.token, renewed_at = excluded.renewed_at
            WHERE copy_claim.worker = excluded.worker
                OR copy_claim.renewed_at <= clock_timestamp() - make_interval(secs => :lasts)
            RETURNING copy_id, token\
            """)
                .bindList("ids", ids)
                .bind("here", workstation)
                .bind("worker", worker)
                .bind("lasts", lasts())
                .map((row, _) -> Map.entry(row.getString(1), row.getLong(2)))
                .forEach(row -> taken.put(row.getKey(), row.getValue()));
        if (!taken.isEmpty()) {
            h.createQuery("""
                DELETE FROM copy_claim WHERE copy_id IN (<ids>) AND NOT EXISTS
                    (SELECT 1 FROM copy WHERE id = copy_id AND state IN ('WAITING', 'MAKING', 'CHECKING'))
                RETURNING copy_id\
                """)
                    .bindList("ids", List.copyOf(taken.keySet()))
                    .mapTo(String.class)
                    .forEach(taken::remove);
        }
        return taken;
    }

    private static Claim notOurs(Handle h, String id) {
        return h.createQuery("""
            SELECT coalesce(workstation, 'another workstation') FROM copy
            LEFT JOIN copy_claim ON copy_id = copy.id
            WHERE copy.id = :id AND state IN ('WAITING', 'MAKING', 'CHECKING')\
            """)
                .bind("id", id)
                .mapTo(String.class)
                .findOne()
                .<Claim>map(Claim.Theirs::new)
                .orElseGet(Claim.Gone::new);
    }

    /// Copies that other programs make now.
    public Set<String> others() {
        return shared
                ? jdbi.withHandle(
                        h -> h.createQuery("SELECT copy_id FROM copy_claim WHERE worker <> :worker AND " + LIVES)
                                .bind("worker", worker)
                                .bind("lasts", lasts())
                                .mapTo(String.class)
                                .set())
                : new HashSet<>();
    }

    /// Workstations whose programs stopped while they made copies, and make none now.
    public Set<String> stopped() {
        return shared
                ? jdbi.withHandle(h -> h.createQuery("SELECT workstation FROM copy_claim GROUP BY workstation"
                                + " HAVING max(renewed_at) <= clock_timestamp() - make_interval(secs => :lasts)")
                        .bind("lasts", lasts())
                        .mapTo(String.class)
                        .set())
                : Set.of();
    }

    /// Shows that this program lives.
    public void renew() {
        if (shared && !tokens.isEmpty()) {
            jdbi.useHandle(
                    h -> h.createUpdate("UPDATE copy_claim SET renewed_at = clock_timestamp() WHERE worker = :worker")
                            .bind("worker", worker)
                            .execute());
        }
    }

    /// Lets others make copies that this program does not make any more.
    public void release(List<String> ids) {
        ids.forEach(tokens::remove);
        if (shared && !ids.isEmpty()) {
            jdbi.useHandle(h -> h.createUpdate("DELETE FROM copy_claim WHERE copy_id IN (<ids>) AND worker = :worker")
                    .bindList("ids", ids)
                    .bind("worker", worker)
                    .execute());
        }
    }

    /// Gives a copy its name and state while nobody can take it over.
    ///
    /// @param naming is done once at most, however often the database has to be asked
    /// @return false when somebody took it over; what was done by then is to be taken back, unless the copy's
    ///     state says that it holds
    public boolean publish(String id, Runnable naming) {
        if (!shared) {
            naming.run();
            return true;
        }
        publishing.lock(); // what it does needs a second connection: never wait for one with all of them taken
        try {
            var named = new AtomicBoolean();
            return jdbi.apart(h -> {
                h.begin();
                boolean ours = h.createQuery("SELECT token FROM copy_claim WHERE copy_id = :id FOR UPDATE")
                        .bind("id", id)
                        .mapTo(Long.class)
                        .findOne()
                        .filter(token -> token.equals(tokens.get(id)))
                        .isPresent();
                if (ours && !named.get()) {
                    naming.run();
                    named.set(true);
                }
                h.commit(); // fails when the claim was not held all the while: then it is looked at again
                return ours;
            });
        } finally {
            publishing.unlock();
        }
    }

    /// Keeps states of copies as [CopyStore#update] does, but of none that somebody else took over.
    public void update(List<WorkingCopy> made) {
        if (shared) {
            copies.update(made, """
                AND (EXISTS (SELECT 1 FROM copy_claim WHERE copy_id = :id AND worker = :worker)
                    OR (state IN ('WAITING', 'MAKING', 'CHECKING')
                        AND NOT EXISTS (SELECT 1 FROM copy_claim WHERE copy_id = :id)))\
                """, worker);
        } else {
            copies.update(made);
        }
    }
}
