package docksort.catalogue;

import com.zaxxer.hikari.pool.HikariPool;
import docksort.catalogue.Database.Wanted;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.CoreException.PasswordWanted;
import docksort.problem.Problem;
import java.nio.file.Path;
import java.sql.SQLException;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.HandleConsumer;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.JdbiException;
import org.postgresql.PGConnection;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;

/// The project's memory, in a SQLite file of its own or in a database that several workstations share: opens
/// it, and gives out its stores. Every change is one
/// transaction with a line in the activity log. Paths are kept relative to a root and given out absolute,
/// as this workstation sees them. Safe for use by several threads.
public final class Catalogue implements AutoCloseable {
    /// What a file says that was shared, to who still has it open.
    static final String SEALED = "the project is shared now";

    private final Database database;
    private final SettingStore settings;
    private final KeptFileStore kept;
    private final RootStore roots;
    private final ArrivalStore arrivals;
    private final ClipStore clips;
    private final ChoiceStore choices;
    private final CopyStore copies;
    private final ClaimStore claims;
    private final MachineStore machines;
    private final EditingStore editing;
    private final CopyChanges copyChanges;
    private final TakenOut takenOut;
    private final AsideStore aside;
    private final StandInStore standIns;
    private final PlaceStore places;
    private final TimelineStore timelines;
    private final FigureStore figures;
    private final RunStore runs;
    private final ActivityLog activity;

    private Catalogue(Database database, InstantSource clock, Desk desk) {
        this.database = database;
        Access jdbi = database.access();
        String workstation = desk.workstation();
        activity = new ActivityLog(jdbi, clock, desk, database.shared());
        settings = new SettingStore(jdbi, activity);
        kept = new KeptFileStore(jdbi, activity);
        roots = new RootStore(jdbi, activity, workstation, database.shared());
        arrivals = new ArrivalStore(jdbi, activity, workstation);
        clips = new ClipStore(jdbi, activity, arrivals, roots, workstation);
        choices = new ChoiceStore(jdbi, activity);
        copies = new CopyStore(jdbi, activity, roots);
        claims = new ClaimStore(jdbi, copies, workstation, database.program(), database.shared());
        machines = new MachineStore(jdbi, activity, workstation, database.program(), database.shared());
        editing = new EditingStore(jdbi, desk, database.program(), database.shared());
        copyChanges = new CopyChanges(jdbi, activity, roots, workstation);
        takenOut = new TakenOut(jdbi, activity);
        aside = new AsideStore(jdbi, activity);
        standIns = new StandInStore(jdbi);
        places = new PlaceStore(jdbi, activity, workstation);
        timelines = new TimelineStore(jdbi, activity);
        figures = new FigureStore(jdbi, clock);
        runs = new RunStore(jdbi);
    }

    /// Opens a catalogue in a file, creates or upgrades it where needed.
    ///
    /// @param desk whose paths are given out: every workstation may see the roots below its own
    /// @throws CatalogueUnavailable when the file is not a catalogue or cannot be opened
    public static Catalogue open(Path file, InstantSource clock, Desk desk) {
        return opened(
                file.toString(),
                "The file is as it was, and so are all originals and copies.",
                "Choose another project folder, or put a backup of the file in place.",
                clock,
                desk,
                () -> Database.file(file, desk));
    }

    /// Opens the catalogue of a shared project, and upgrades it where needed.
    ///
    /// @throws CatalogueUnavailable when the server does not answer or refuses, or no project is there
    public static Catalogue open(SharedAddress address, InstantSource clock, Desk desk) {
        return open(address, clock, desk, Wanted.ONE);
    }

    /// Begins a catalogue where none is.
    ///
    /// @throws CatalogueUnavailable when the server does not answer or refuses, or something is there
    public static Catalogue begin(SharedAddress address, InstantSource clock, Desk desk) {
        return open(address, clock, desk, Wanted.NONE);
    }

    private static Catalogue open(SharedAddress address, InstantSource clock, Desk desk, Wanted wanted) {
        return opened(
                address.inWords(),
                "Nothing was changed there, and all originals and copies are as they were.",
                "See that the server runs, and that address, schema, user and password (~/.pgpass, PGPASSWORD or a"
                        + " service file) are right.",
                clock,
                desk,
                () -> Database.server(address, desk, wanted));
    }

    /// Moves all of this catalogue, which is in a file, into a database, and compares each row. The file
    /// stays as it is, and nothing can be written into it any more.
    ///
    /// @return rows by table
    /// @throws CatalogueUnavailable when something is there already, or came over otherwise than it was;
    ///     then there is nothing
    public Map<String, Long> share(SharedAddress address, InstantSource clock, Desk desk) {
        try (Catalogue there = begin(address, clock, desk)) {
            return database.access().inTransaction(from -> {
                Map<String, Long> rows = there.fill(address.inWords(), from, into -> {
                    into.execute("""
                        INSERT INTO root_path (root_id, workstation, path) SELECT id, ?, path FROM root
                        ON CONFLICT DO NOTHING\
                        """, desk.workstation());
                    for (Root root : roots.all()) {
                        into.execute(
                                "UPDATE root SET path = ? WHERE id = ?",
                                Root.nowhere(root.name()).toString(),
                                root.id());
                    }
                    into.execute(
                            "INSERT INTO member (workstation, person, joined_micros) VALUES (?, ?, ?)"
                                    + " ON CONFLICT DO NOTHING",
                            desk.workstation(),
                            desk.person(),
                            Micros.of(clock.instant()));
                });
                seal(from, address);
                return rows;
            });
        }
    }

    /// Nobody who has the file open still changes what nobody sees.
    private static void seal(Handle h, SharedAddress address) {
        h.execute("INSERT INTO setting (name, value) VALUES (?, ?)", Database.SHARED_AT, address.inWords());
        for (String table : CatalogueMove.TABLES.keySet()) {
            for (String change : List.of("INSERT", "UPDATE", "DELETE")) {
                h.execute("CREATE TRIGGER shared_" + table + "_" + change + " BEFORE " + change + " ON " + table
                        + " BEGIN SELECT RAISE(ABORT, '" + SEALED + "'); END");
            }
        }
    }

    /// Copies all of a shared catalogue into a file, for an archive, and compares each row. The shared one
    /// stays as it is.
    ///
    /// @param file is not there yet
    /// @return rows by table
    public Map<String, Long> archive(Path file, InstantSource clock, Desk desk) {
        try (Catalogue there = open(file, clock, desk)) {
            return database.access()
                    .inTransaction(
                            from -> there.fill(file.toString(), from, into -> into.execute("""
                                UPDATE root SET path = coalesce((SELECT path FROM root_path
                                    WHERE root_id = root.id AND workstation = ?), path)\
                                """, desk.workstation())));
        }
    }

    private Map<String, Long> fill(String what, Handle from, HandleConsumer<RuntimeException> then) {
        try {
            return database.access().inTransaction(into -> {
                takeTheTimeItNeeds(from);
                takeTheTimeItNeeds(into);
                Map<String, Long> rows = CatalogueMove.copy(from, into);
                database.countOn(into);
                then.useHandle(into);
                return rows;
            });
        } catch (CatalogueMove.Differs | JdbiException | SQLException e) {
            throw new CatalogueUnavailable(
                    new Problem(
                            "The catalogue was not copied into " + what,
                            rootMessage(e),
                            "The project goes on where it was; what was begun there is empty.",
                            "Try it with another schema or file, and report this if it happens again."),
                    e);
        }
    }

    /// While one of both is written the other one has nothing to do, however long that takes.
    private static void takeTheTimeItNeeds(Handle h) throws SQLException {
        if (h.getConnection().isWrapperFor(PGConnection.class)) {
            h.execute("SET LOCAL idle_in_transaction_session_timeout = 0");
        }
    }

    private static Catalogue opened(
            String what, String untouched, String todo, InstantSource clock, Desk desk, Supplier<Database> database) {
        try {
            return new Catalogue(database.get(), clock, desk);
        } catch (TableVersions.TooNew e) {
            throw new CatalogueUnavailable(
                    new Problem(
                            "The project's catalogue is of a newer version of the program: " + what,
                            String.valueOf(e.getMessage()),
                            untouched,
                            "Open it with the newer program."),
                    e);
        } catch (TableVersions.InUse e) {
            throw new CatalogueUnavailable(
                    new Problem(
                            "The project's catalogue cannot be opened yet: " + what,
                            String.valueOf(e.getMessage()),
                            untouched,
                            "Close the project there, then open it here; those workstations need this version of the"
                                    + " program as well."),
                    e);
        } catch (TableVersions.Empty | TableVersions.Taken | Database.Moved e) {
            throw new CatalogueUnavailable(
                    new Problem(
                            "The project's catalogue cannot be opened: " + what,
                            String.valueOf(e.getMessage()),
                            untouched,
                            switch (e) {
                                case TableVersions.Empty _ ->
                                    "See that the address and the schema are right: dock-sort share begins one.";
                                case TableVersions.Taken _ ->
                                    "Choose another schema, or join the project that is there.";
                                default ->
                                    "Join it with dock-sort join, or put shared.json back into the project's folder.";
                            }),
                    e);
        } catch (FlywayException | HikariPool.PoolInitializationException e) {
            if (DatabaseFaults.wantsPassword(e)) {
                throw new PasswordWanted(
                        new Problem(
                                "The database of the shared project does not let you in: " + what,
                                rootMessage(e),
                                untouched,
                                "Give the password: in ~/.pgpass, PGPASSWORD or a service file, or in the window when"
                                        + " it asks."),
                        e);
            }
            throw new CatalogueUnavailable(
                    new Problem("The project's catalogue cannot be opened: " + what, rootMessage(e), untouched, todo),
                    e,
                    DatabaseFaults.isAway(e));
        } catch (JdbiException e) {
            throw DatabaseFaults.isAway(e) ? DatabaseFaults.away(e) : e;
        }
    }

    /// The settings in a catalogue that is only looked at: it is neither locked nor upgraded.
    ///
    /// @throws CatalogueUnavailable when the file is not a catalogue or cannot be opened
    public static Map<String, String> settingsIn(Path file) {
        var sqlite = new SQLiteConfig();
        sqlite.setReadOnly(true);
        var source = new SQLiteDataSource(sqlite);
        source.setUrl("jdbc:sqlite:" + file.toAbsolutePath());
        try {
            return Jdbi.create(source).withHandle(SettingStore::all);
        } catch (JdbiException e) {
            throw new CatalogueUnavailable(
                    new Problem(
                            "The project's catalogue cannot be read: " + file,
                            rootMessage(e),
                            "It is as it was.",
                            "Choose the folder of another project."),
                    e);
        }
    }

    /// The deepest that says anything.
    private static String rootMessage(Throwable failure) {
        String said = "";
        for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
            String words = cause.getMessage() == null
                    ? ""
                    : cause.getMessage().lines().findFirst().orElse("");
            said = words.isBlank() ? said : words;
        }
        return said;
    }

    public SettingStore settings() {
        return settings;
    }

    public KeptFileStore kept() {
        return kept;
    }

    public RootStore roots() {
        return roots;
    }

    public ArrivalStore arrivals() {
        return arrivals;
    }

    public ClipStore clips() {
        return clips;
    }

    public ChoiceStore choices() {
        return choices;
    }

    public CopyStore copies() {
        return copies;
    }

    /// Who makes which copy.
    public ClaimStore claims() {
        return claims;
    }

    /// Hears of what other programs write into the catalogue from now on, on a thread of its own.
    public Overheard overhear(Overheard.Listener listener) {
        return database.overhear(listener);
    }

    /// Whether several workstations use it.
    public boolean isShared() {
        return database.shared();
    }

    /// Whether the role of who is connected may change anything. In a file everybody may.
    public boolean mayChange() {
        return database.mayChange();
    }

    /// Does work whose thread waits for a database that is away, instead of failing.
    public void waiting(Patience patience, Runnable work) {
        Access.waiting(patience, work);
    }

    public MachineStore machines() {
        return machines;
    }

    /// What people have open to change it.
    public EditingStore editing() {
        return editing;
    }

    /// Changes to what stands in for what.
    public CopyChanges copyChanges() {
        return copyChanges;
    }

    /// What goes out of the project, and comes back.
    public TakenOut takenOut() {
        return takenOut;
    }

    /// What is kept and neither planned nor counted.
    public AsideStore aside() {
        return aside;
    }

    public StandInStore standIns() {
        return standIns;
    }

    public PlaceStore places() {
        return places;
    }

    public TimelineStore timelines() {
        return timelines;
    }

    public FigureStore figures() {
        return figures;
    }

    public RunStore runs() {
        return runs;
    }

    public ActivityLog activity() {
        return activity;
    }

    @Override
    public void close() {
        database.close();
    }
}
