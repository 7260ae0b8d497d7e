package docksort.catalogue;

import docksort.problem.CoreException;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jdbi.v3.core.JdbiException;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteException;

/// Faults of databases in words for people. States are those of PostgreSQL (documentation, appendix A) and
/// result codes of SQLite.
final class DatabaseFaults {
    /// A shutdown by its administrator or by a crash, the start or the recovery after it, and the end of a
    /// session that did nothing in the middle of a transaction.
    private static final Set<String> GOING = Set.of("57P01", "57P02", "57P03", "57P05", "25P03");
    private static final Set<String> WRONG_PASSWORD = Set.of("28P01", "28000");
    private static final String REJECTED = "08004";
    private static final String NO_CONNECTION = "08";
    /// What a standby says that was not made the primary yet.
    private static final String READ_ONLY = "25006";
    private static final String NO_PRIVILEGE = "42501";
    private static final String TOO_MANY = "53300";
    private static final String CLOSED = "Connection is closed";

    private DatabaseFaults() {}

    private static Optional<SQLException> cause(Throwable fault) {
        SQLException found = null;
        for (Throwable each = fault; each != null; each = each.getCause()) {
            if (each instanceof SQLException sql) {
                found = sql;
            }
        }
        return Optional.ofNullable(found);
    }

    private static String state(Throwable fault) {
        return cause(fault).map(SQLException::getSQLState).orElse("");
    }

    /// Whether the server went away, or the connection to it did, and may come back.
    static boolean isAway(Throwable fault) {
        String state = state(fault);
        return noneWasHad(fault)
                || wasClosed(fault)
                || state.startsWith(NO_CONNECTION)
                || GOING.contains(state)
                || state.equals(TOO_MANY);
    }

    /// What the pool says of a connection that was cut before, and gives no state with.
    private static boolean wasClosed(Throwable fault) {
        return cause(fault)
                .filter(sql -> sql.getSQLState() == null && CLOSED.equals(sql.getMessage()))
                .isPresent();
    }

    /// Whether there was a connection that was cut, so that a new one may be had at once.
    static boolean wasThere(Throwable fault) {
        return isAway(fault) && !noneWasHad(fault);
    }

    /// What the pool says when it could not get a connection in time.
    private static boolean noneWasHad(Throwable fault) {
        return Stream.iterate(fault, Objects::nonNull, Throwable::getCause)
                .anyMatch(SQLTransientConnectionException.class::isInstance);
    }

    /// Whether a connection was refused for want of a password, or of the right one. That none was given the
    /// driver says as a rejected connection.
    static boolean wantsPassword(Throwable fault) {
        String state = state(fault);
        return WRONG_PASSWORD.contains(state)
                || (state.equals(REJECTED)
                        && why(fault).toLowerCase(Locale.ROOT).contains("password"));
    }

    private static String why(Throwable fault) {
        return cause(fault)
                .map(SQLException::getMessage)
                .orElse(String.valueOf(fault.getMessage()))
                .lines()
                .findFirst()
                .orElse("");
    }

    /// Nothing was changed.
    static CatalogueUnavailable away(Throwable fault) {
        return new CatalogueUnavailable(
                new Problem(
                        "The database of the shared project does not answer",
                        why(fault),
                        "What was asked for last was not done; all else is as it was.",
                        "Try again when it answers. What is being made goes on and is entered then."),
                fault,
                true);
    }

    /// The connection was cut at the end of a change.
    static CatalogueUnavailable unknown(Throwable fault) {
        return new CatalogueUnavailable(
                new Problem(
                        "The database of the shared project stopped answering while it kept a change",
                        why(fault),
                        "It is not known whether the last change took place; it took place as a whole or not at all.",
                        "When the database answers again, the project shows which: look before you repeat it."),
                fault,
                true);
    }

    /// A fault in the words of what helps; one of the program itself stays what it is.
    static CoreException told(JdbiException fault) {
        return switch (state(fault)) {
            case NO_PRIVILEGE ->
                new InputRefused(
                        new Problem(
                                "This was not done",
                                "you may look at this shared project, but not change that: " + why(fault),
                                "Nothing was changed.",
                                "Ask who set up the database for a role that may."),
                        fault);
            case READ_ONLY ->
                new CatalogueUnavailable(
                        new Problem(
                                "The database of the shared project only lets itself be read",
                                why(fault),
                                "Nothing was changed.",
                                "A standby does so until it is made the primary: try again then, or add"
                                        + " target_session_attrs=read-write to the address."),
                        fault);
            default -> ofFile(fault).orElseThrow(() -> fault);
        };
    }

    private static Optional<CoreException> ofFile(JdbiException fault) {
        if (!(cause(fault).orElse(null) instanceof SQLiteException sqlite)) {
            return Optional.empty();
        }
        SQLiteErrorCode code = sqlite.getResultCode();
        boolean sealed = code == SQLiteErrorCode.SQLITE_CONSTRAINT_TRIGGER
                || String.valueOf(sqlite.getMessage()).contains(Catalogue.SEALED);
        if (sealed) {
            return Optional.of(new CatalogueUnavailable(
                    new Problem(
                            "This was not done",
                            "the project was shared in the meantime, and its catalogue is in a database now",
                            "Nothing was changed.",
                            "Close the project and open it again."),
                    fault));
        }
        return switch (code.code & 0xff) {
            case 5, 6 ->
                Optional.of(unavailable(fault, "another program has been writing into it for long", "Try again."));
            case 8 ->
                Optional.of(unavailable(fault, "it may not be written to", "See its permissions, and its volume's."));
            case 10 -> Optional.of(unavailable(fault, why(fault), "See that its volume is there and sound."));
            case 13 -> Optional.of(unavailable(fault, "its volume is full", "Free some room, then try again."));
            default -> Optional.empty();
        };
    }

    private static CatalogueUnavailable unavailable(Throwable fault, String why, String todo) {
        return new CatalogueUnavailable(
                new Problem(
                        "The project's catalogue could not be used",
                        why,
                        "Nothing was changed; files are as they were.",
                        todo),
                fault);
    }
}
