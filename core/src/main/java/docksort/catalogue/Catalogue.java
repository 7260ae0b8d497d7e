package docksort.catalogue;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import com.zaxxer.hikari.pool.HikariPool;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.Problem;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Map;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.JdbiException;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;

/// The project's memory in one SQLite file: opens it, and gives out its stores. Every change is one
/// transaction with a line in the activity log. Paths are kept relative to a root and given out absolute,
/// as this workstation sees them. Safe for use by several threads.
public final class Catalogue implements AutoCloseable {
    private final HikariDataSource source;
    private final SettingStore settings;
    private final RootStore roots;
    private final ArrivalStore arrivals;
    private final ClipStore clips;
    private final ChoiceStore choices;
    private final CopyStore copies;
    private final CopyChanges copyChanges;
    private final TakenOut takenOut;
    private final AsideStore aside;
    private final StandInStore standIns;
    private final PlaceStore places;
    private final TimelineStore timelines;
    private final FigureStore figures;
    private final RunStore runs;
    private final ActivityLog activity;

    private Catalogue(HikariDataSource source, InstantSource clock, String workstation) {
        this.source = source;
        Jdbi jdbi = Jdbi.create(source);
        activity = new ActivityLog(jdbi, clock, workstation);
        settings = new SettingStore(jdbi, activity);
        roots = new RootStore(jdbi, activity, workstation);
        arrivals = new ArrivalStore(jdbi, activity);
        clips = new ClipStore(jdbi, activity, arrivals);
        choices = new ChoiceStore(jdbi, activity);
        copies = new CopyStore(jdbi, activity, roots);
        copyChanges = new CopyChanges(jdbi, activity, roots);
        takenOut = new TakenOut(jdbi, activity);
        aside = new AsideStore(jdbi, activity);
        standIns = new StandInStore(jdbi);
        places = new PlaceStore(jdbi, activity, workstation);
        timelines = new TimelineStore(jdbi, activity);
        figures = new FigureStore(jdbi, clock);
        runs = new RunStore(jdbi);
    }

    /// Opens a catalogue, creates or upgrades it where needed.
    ///
    /// @param workstation whose paths are given out: every one may see the roots below its own
    /// @throws CatalogueUnavailable when the file is not a catalogue or cannot be opened
    public static Catalogue open(Path file, InstantSource clock, String workstation) {
        HikariDataSource pool = null;
        try {
            var sqlite = new SQLiteConfig();
            sqlite.setJournalMode(SQLiteConfig.JournalMode.WAL);
            sqlite.setSynchronous(SQLiteConfig.SynchronousMode.NORMAL);
            sqlite.setBusyTimeout(15_000);
            sqlite.enforceForeignKeys(true);
            // A transaction that will write takes its turn at its start, so that two of them cannot block each
            // other.
            sqlite.setTransactionMode(SQLiteConfig.TransactionMode.IMMEDIATE);
            var config = new HikariConfig();
            config.setJdbcUrl("jdbc:sqlite:" + file.toAbsolutePath());
            config.setDataSourceProperties(sqlite.toProperties());
            config.setMaximumPoolSize(4);
            config.setPoolName("catalogue");
            // Roots as this workstation sees them. Bound parameters are not allowed in a view.
            config.setConnectionInitSql("""
                CREATE TEMP VIEW IF NOT EXISTS here AS
                SELECT root.id, root.name, coalesce(root_path.path, root.path) AS path FROM root
                LEFT JOIN root_path ON root_path.root_id = root.id AND workstation = '%s'\
                """.formatted(workstation.replace("'", "''")));
            pool = new HikariDataSource(config);
            Flyway.configure()
                    .dataSource(pool)
                    .locations("classpath:docksort/catalogue")
                    .load()
                    .migrate();
            return new Catalogue(pool, clock, workstation);
        } catch (FlywayException | HikariPool.PoolInitializationException e) {
            if (pool != null) {
                pool.close();
            }
            throw new CatalogueUnavailable(
                    new Problem(
                            "The project's catalogue cannot be opened: " + file,
                            rootMessage(e),
                            "The file is as it was, and so are all originals and copies.",
                            "Choose another project folder, or put a backup of the file in place."),
                    e);
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

    private static String rootMessage(Throwable failure) {
        Throwable cause = failure;
        while (cause.getCause() != null) {
            cause = cause.getCause();
        }
        return String.valueOf(cause.getMessage()).lines().findFirst().orElse("");
    }

    public SettingStore settings() {
        return settings;
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
        source.close();
    }
}
