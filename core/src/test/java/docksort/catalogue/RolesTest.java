package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.PostgresServer;
import docksort.arrival.Clip;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.CoreException.PasswordWanted;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInfo;

/// What the script of roles lets whom do.
class RolesTest {
    private static final InstantSource CLOCK = InstantSource.system();
    private static final List<String> CHANGES =
            List.of("INSERT", "UPDATE", "DELETE", "TRUNCATE", "REFERENCES", "TRIGGER");

    private SharedAddress address;
    private Jdbi owner;

    @BeforeEach
    void begin(TestInfo test) throws SQLException {
        address = PostgresServer.address(SharedAddress.schemaFor(
                "roles " + test.getTestMethod().orElseThrow().getName().substring(0, 12)));
        owner = Jdbi.create(PostgresServer.jdbcUrl(address));
        try (Catalogue catalogue = Catalogue.begin(address, CLOCK, new Desk("desk", "somebody"))) {
            StoresContract.fillAll(catalogue);
        }
        owner.useHandle(h -> {
            try (Statement script = h.getConnection().createStatement()) {
                script.execute(address.roles()); // all of it, as psql does
            }
            for (String role : List.of("sees", "makes", "changes")) {
                h.execute("CREATE ROLE " + address.schema() + "_login_" + role + " LOGIN IN ROLE " + address.schema()
                        + "_" + role);
            }
        });
    }

    private SharedAddress as(String role) {
        return SharedAddress.parse(
                address.uri().replace("postgres@", address.schema() + "_login_" + role + "@"), address.schema());
    }

    /// Who was let in by the script of an older program stays in when the owner's new program has upgraded.
    @Test
    void anUpgradeLeavesNobodyOut() {
        SharedAddress older = PostgresServer.address("roles_upgrade", "10");
        owner.useHandle(h -> {
            for (String role : List.of("sees", "makes")) {
                String login = "roles_upgrade_login_" + role;
                h.execute("CREATE ROLE " + login + " LOGIN");
                h.execute("GRANT USAGE ON SCHEMA roles_upgrade TO " + login);
                h.execute("GRANT SELECT ON ALL TABLES IN SCHEMA roles_upgrade TO " + login);
            }
            h.execute("GRANT USAGE ON ALL SEQUENCES IN SCHEMA roles_upgrade TO roles_upgrade_login_makes");
            h.execute(
                    "GRANT INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA roles_upgrade TO roles_upgrade_login_makes");
        });
        try (Catalogue upgraded = Catalogue.open(older, CLOCK, new Desk("desk", "somebody"))) {
            StoresContract.fillAll(upgraded);
            for (String role : List.of("sees", "makes")) {
                SharedAddress as = SharedAddress.parse(
                        older.uri().replace("postgres@", "roles_upgrade_login_" + role + "@"), older.schema());
                try (Catalogue there = Catalogue.open(as, CLOCK, new Desk(role, "another"))) {
                    assertThat(there.clips().all())
                            .hasSameSizeAs(upgraded.clips().all())
                            .isNotEmpty();
                    assertThat(there.machines().far()).isEmpty();
                    assertThat(there.editing().others()).isEmpty();
                    if (role.equals("makes")) {
                        there.machines().reaches(Map.of("all", 1e6));
                        there.editing().show(Set.of("rule 1"));
                        assertThat(upgraded.editing().others()).containsKey("rule 1");
                        there.editing().show(Set.of());
                        assertThat(upgraded.editing().others()).isEmpty();
                    }
                }
            }
        }
    }

    /// Asked of the server, for every table, sequence and the schema itself: no statement of any program can
    /// change anything.
    @Test
    void whoSeesHasNoRightToChangeAnything() {
        String role = address.schema() + "_sees";
        owner.useHandle(h -> {
            List<String> tables = names(h, "SELECT tablename FROM pg_tables WHERE schemaname = ?");
            assertThat(tables).hasSizeGreaterThan(25);
            for (String table : tables) {
                assertThat(may(h, "has_table_privilege", role, table, "SELECT")).isTrue();
                for (String change : CHANGES) {
                    assertThat(may(h, "has_table_privilege", role, table, change))
                            .as(change + " on " + table)
                            .isFalse();
                }
            }
            List<String> sequences = names(h, "SELECT sequencename FROM pg_sequences WHERE schemaname = ?");
            assertThat(sequences).isNotEmpty();
            for (String sequence : sequences) {
                assertThat(may(h, "has_sequence_privilege", role, sequence, "USAGE"))
                        .isFalse();
                assertThat(may(h, "has_sequence_privilege", role, sequence, "UPDATE"))
                        .isFalse();
            }
            assertThat(may(h, "has_schema_privilege", role, address.schema(), "CREATE"))
                    .isFalse();
        });
    }

    private List<String> names(Handle h, String query) {
        return h.createQuery(query)
                .bind(0, address.schema())
                .mapTo(String.class)
                .list();
    }

    private static boolean may(Handle h, String question, String role, String what, String right) {
        return h.createQuery("SELECT " + question + "(?, ?, ?)")
                .bind(0, role)
                .bind(1, what)
                .bind(2, right)
                .mapTo(Boolean.class)
                .one();
    }

    @Test
    void whoSeesReadsAllAndIsToldThatHeMayNotChangeIt() {
        try (Catalogue all = Catalogue.open(address, CLOCK, new Desk("desk", "somebody"));
                Catalogue sees = Catalogue.open(as("sees"), CLOCK, new Desk("desk", "visitor"))) {
            assertThat(all.mayChange()).isTrue();
            assertThat(sees.mayChange()).isFalse();
            assertThat(sees.clips().all()).isEqualTo(all.clips().all()).isNotEmpty();
            assertThat(sees.copies().all()).isEqualTo(all.copies().all());
            Clip clip = sees.clips().all().getFirst();
            List<String> copies =
                    sees.copies().all().stream().map(WorkingCopy::id).toList();
            List<ThrowingCallable> wishes = List.of(
                    () -> sees.activity().write("here"),
                    () -> sees.activity().undo(Optional.empty()),
                    () -> sees.settings().put("name", "mine"),
                    () -> sees.settings().change("serving", "", "light", "switched"),
                    () -> sees.roots().add(new Root("x", "Mine", Path.of("/mine"))),
                    () -> sees.choices().choose(List.of(clip.id()), Optional.empty(), "chosen"),
                    () -> sees.clips().note(Map.of()),
                    () -> sees.copies().reorder(copies),
                    () -> sees.claims().take(copies),
                    () -> sees.machines().show(new MachineStore.Doing("makes copies", 1, 1, 1, 1, 0)),
                    () -> sees.machines().ask("desk", Machine.Wish.HOLD),
                    () -> sees.machines().join("visitor", true),
                    () -> sees.takenOut().takeOut(List.of(clip.id()), List.of(), List.of(), "out"),
                    () -> sees.figures().keep("desk", clip.fingerprint(), "play", 1.5),
                    () -> sees.timelines().use(Map.of()));
            for (ThrowingCallable wish : wishes) {
                assertThatThrownBy(wish)
                        .as("wish " + wishes.indexOf(wish))
                        .isInstanceOf(InputRefused.class)
                        .hasMessageContaining("you may look at this shared project");
            }
            assertThat(all.activity().latest(1000)).isEqualTo(sees.activity().latest(1000));
        }
    }

    @Test
    void whoMakesPlansAndMakesButTakesNothingInOrOut() {
        try (Catalogue makes = Catalogue.open(as("makes"), CLOCK, new Desk("desk", "maker"))) {
            Clip clip = makes.clips().all().getFirst();
            makes.choices().choose(List.of(clip.id()), Optional.of(List.of("b")), "chosen");
            assertThat(makes.activity().undo(Optional.empty())).contains("chosen");
            String id = makes.copies().all().getFirst().id();
            makes.claims().take(List.of(id));
            makes.claims().release(List.of(id));
            assertThatThrownBy(() -> makes.takenOut().takeOut(List.of(clip.id()), List.of(), List.of(), "out"))
                    .isInstanceOf(InputRefused.class);
            assertThatThrownBy(() -> makes.roots().add(new Root("x", "Mine", Path.of("/mine"))))
                    .isInstanceOf(InputRefused.class);
        }
        try (Catalogue changes = Catalogue.open(as("changes"), CLOCK, new Desk("desk", "editor"))) {
            changes.roots().add(new Root("x", "Mine", Path.of("/mine")));
            Clip clip = changes.clips().all().getFirst();
            changes.takenOut()
                    .takeOut(List.of(clip.id()), List.of(), changes.roots().all(), "out");
            assertThat(changes.activity().undo(Optional.empty())).contains("out");
        }
    }

    /// The server's own rules of who needs a password (PostgreSQL documentation, chapter 20.1) are given a line
    /// for one login.
    @Test
    void whoHasNoPasswordOrAWrongOneIsAskedForIt() throws Exception {
        String login = address.schema() + "_guarded";
        owner.useHandle(h -> {
            Path rules =
                    Path.of(h.createQuery("SHOW hba_file").mapTo(String.class).one());
            Files.writeString(rules, "host all " + login + " all scram-sha-256\n" + Files.readString(rules));
            h.execute("CREATE ROLE " + login + " LOGIN PASSWORD 'dew point' IN ROLE " + address.schema() + "_changes");
            h.execute("SELECT pg_reload_conf()");
        });
        SharedAddress guarded = SharedAddress.parse(address.uri().replace("postgres@", login + "@"), address.schema());
        var desk = new Desk("desk", "keeper");
        for (Desk refused : List.of(desk, desk.with(Password.of("dew")))) {
            assertThatThrownBy(() -> Catalogue.open(guarded, CLOCK, refused))
                    .isInstanceOf(PasswordWanted.class)
                    .hasMessageContaining("does not let you in")
                    .hasMessageNotContaining("dew");
        }
        Desk known = desk.with(Password.of("dew point"));
        assertThat(known.toString()).doesNotContain("dew");
        try (Catalogue open = Catalogue.open(guarded, CLOCK, known)) {
            assertThat(open.clips().all()).isNotEmpty();
        }
    }
}
