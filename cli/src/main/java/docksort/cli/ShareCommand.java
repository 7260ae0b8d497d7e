package docksort.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.catalogue.SharedAddress;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "share",
        description = "Moves the project's catalogue into a PostgreSQL database, for several workstations, or copies a"
                + " shared one into a file. Without options: says where it is shared.")
final class ShareCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(
            names = "--to",
            paramLabel = "ADDRESS",
            description = "The database, as postgresql://user@host:5432/database. The password comes from ~/.pgpass,"
                    + " PGPASSWORD or a service file, and is kept nowhere.")
    private Optional<String> to = Optional.empty();

    @Option(
            names = "--schema",
            paramLabel = "NAME",
            description = "Schema of the database for this project. Default: made of the project's name")
    private Optional<String> schema = Optional.empty();

    @Option(
            names = "--archive",
            paramLabel = "FILE",
            description = "Copy the shared catalogue into this file; as catalogue.db of a folder it is a project of"
                    + " its own.")
    private Optional<Path> archive = Optional.empty();

    @Option(
            names = "--roles",
            description = "Print a script for psql that makes roles with fewer rights: who only sees, who plans and"
                    + " makes copies, who changes everything.")
    private boolean roles;

    @Override
    public Integer call() {
        common.refuse(
                Stream.of(to.isPresent(), archive.isPresent(), roles)
                                .filter(asked -> asked)
                                .count()
                        > 1,
                "one of --to, --archive and --roles");
        common.refuse(schema.isPresent() && to.isEmpty(), "--schema goes with --to");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            if (to.isPresent()) {
                String name = schema.orElseGet(
                        () -> SharedAddress.schemaFor(project.settings().name()));
                SharedAddress address = SharedAddress.parse(to.get(), name);
                Map<String, Long> rows = project.sharing().share(address);
                common.say("Shared, %d rows in %d tables, each compared.", sum(rows), rows.size());
                common.say("The catalogue's file is as it was, and sealed: %s", common.folder());
                return told(project, address, rows);
            }
            if (archive.isPresent()) {
                Map<String, Long> rows = project.sharing().archive(archive.get());
                common.say("Archived, %d rows in %d tables, each compared: %s", sum(rows), rows.size(), archive.get());
                return told(project, project.sharing().address().orElseThrow(), rows);
            }
            Optional<SharedAddress> address = project.sharing().address();
            if (address.isEmpty()) {
                common.refuse(roles, "the project is in a file of its own: share it first, then make roles");
                common.say("The project is in a file of its own, for one workstation at a time.");
                if (common.json()) {
                    common.print(Common.object().put("address", ""));
                }
                return ExitCodes.GOOD;
            }
            if (roles) {
                common.say("%s", address.get().roles());
                if (common.json()) {
                    common.print(Common.object()
                            .put("address", address.get().uri())
                            .put("roles", address.get().roles()));
                }
                return ExitCodes.GOOD;
            }
            return told(project, address.get(), Map.of());
        }
    }

    private static long sum(Map<String, Long> rows) {
        return rows.values().stream().mapToLong(Long::longValue).sum();
    }

    private int told(Project project, SharedAddress address, Map<String, Long> rows) {
        common.say("Others join it with: dock-sort join '%s' --schema %s", address.uri(), address.schema());
        if (common.json()) {
            ObjectNode answer = Common.object()
                    .put("address", address.uri())
                    .put("schema", address.schema())
                    .put("workstation", project.roots().workstation());
            if (!rows.isEmpty()) {
                ObjectNode tables = answer.putObject("rows");
                rows.forEach(tables::put);
            }
            common.print(answer);
        }
        return ExitCodes.GOOD;
    }
}
