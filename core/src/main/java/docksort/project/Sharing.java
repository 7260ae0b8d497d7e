package docksort.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Desk;
import docksort.catalogue.Invitation;
import docksort.catalogue.Password;
import docksort.catalogue.Root;
import docksort.catalogue.SharedAddress;
import docksort.files.Documents;
import docksort.files.ExclusiveLock;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// A project for several workstations: its catalogue goes from its file into a database, and other
/// workstations join it, each with a project folder of its own.
public final class Sharing {
    static final String FILE = "shared.json";

    private static final ObjectMapper JSON = JsonMapper.builder()
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .build();

    private final Catalogue catalogue;
    private final Path folder;
    private final InstantSource clock;

    Sharing(Catalogue catalogue, Path folder, InstantSource clock) {
        this.catalogue = catalogue;
        this.folder = folder;
        this.clock = clock;
    }

    /// Where the catalogue of a project folder is, and who works there: what shared.json says. It never
    /// holds a password.
    ///
    /// @param address a connection URI of libpq
    /// @param workstation the name under which the paths of this folder's member are kept
    record Membership(String address, String schema, String workstation, String person) {
        Membership {
            person = person == null ? "" : person; // written by hand, for instance
        }

        SharedAddress shared() {
            return SharedAddress.parse(address, schema);
        }
    }

    /// @return empty where the project is in a file of its own, or there is none
    static Optional<Membership> membership(Path folder) {
        Path file = folder.resolve(FILE);
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        try {
            Membership found = JSON.readValue(Documents.read(file), Membership.class);
            if (found.address() == null || found.schema() == null || found.workstation() == null) {
                throw damaged(file, "it names no address, schema and workstation");
            }
            return Optional.of(found);
        } catch (JsonProcessingException e) {
            throw damaged(file, e.getOriginalMessage());
        } catch (java.io.IOException e) {
            throw damaged(file, String.valueOf(e.getMessage()));
        }
    }

    private static InputRefused damaged(Path file, String why) {
        return new InputRefused(new Problem(
                "The project's " + FILE + " cannot be used: " + file,
                why,
                "The shared project is as it was.",
                "Join it again with dock-sort join, in another folder."));
    }

    private static void keep(Path folder, Membership membership) {
        try {
            String text = JSON.writerWithDefaultPrettyPrinter().writeValueAsString(membership) + "\n";
            Documents.replace(folder.resolve(FILE), text.getBytes(StandardCharsets.UTF_8));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("cannot write " + membership, e);
        }
    }

    /// Where the project is shared, for those who may join it.
    public Optional<SharedAddress> address() {
        return catalogue.isShared() ? membership(folder).map(Membership::shared) : Optional.empty();
    }

    /// Workstations that joined, by their names.
    public List<String> members() {
        return catalogue.machines().members();
    }

    /// Moves the catalogue into a database, each row compared. Its file stays, as it was and sealed. This
    /// project has to be opened anew afterwards.
    ///
    /// @return rows by table
    /// @throws InputRefused when it is shared already, or a run is at work
    public Map<String, Long> share(SharedAddress address) {
        return share(address, Password.NONE);
    }

    /// @param password by which the person is let in, where one was typed
    public Map<String, Long> share(SharedAddress address, Password password) {
        if (catalogue.isShared()) {
            throw refused("it is shared already", "Other workstations join it with dock-sort join.");
        }
        Optional<ExclusiveLock> idle = ExclusiveLock.tryOn(folder.resolve(Project.RUN_LOCK));
        if (idle.isEmpty()) {
            throw refused("a run is making copies", "Stop the run, or let it come to its end, then share it.");
        }
        try (ExclusiveLock _ = idle.get()) {
            Desk desk = Project.desk(folder).with(password);
            Map<String, Long> rows = catalogue.share(address, clock, desk);
            keep(folder, new Membership(address.uri(), address.schema(), desk.workstation(), desk.person()));
            return rows;
        }
    }

    private static InputRefused refused(String why, String todo) {
        return new InputRefused(new Problem("The project was not shared", why, "It is as it was.", todo));
    }

    /// Copies the shared catalogue into a file, each row compared. A folder with that file as catalogue.db
    /// is a project that nobody shares. The shared one goes on.
    ///
    /// @return rows by table
    public Map<String, Long> archive(Path file) {
        if (Files.exists(file)) {
            throw new InputRefused(new Problem(
                    "No archive was written to " + file,
                    "something is there already",
                    "It is as it was.",
                    "Name another file."));
        }
        return catalogue.archive(file.toAbsolutePath(), clock, Project.desk(folder));
    }

    /// Looks at a shared project without joining it. Blocks.
    public static Invitation look(SharedAddress address, Desk desk, InstantSource clock) {
        try (Catalogue catalogue = Catalogue.open(address, clock, desk)) {
            List<Invitation.SharedRoot> roots = catalogue.roots().all().stream()
                    .map(root -> new Invitation.SharedRoot(
                            root.name(),
                            elsewhere(catalogue, root),
                            catalogue.roots().pathsElsewhere().stream()
                                    .filter(row -> row.get(0).equals(root.id()))
                                    .map(row -> row.get(2) + " on " + row.get(1))
                                    .collect(Collectors.joining(", "))))
                    .toList();
            return new Invitation(
                    catalogue.settings().get("name").orElse(""),
                    roots,
                    catalogue.machines().members());
        }
    }

    /// How a workstation joins.
    ///
    /// @param desk the name under which the paths of this workstation are kept, and who works there
    /// @param places where this workstation sees the project's roots, by their names; a root that is not among
    ///     them is nowhere here until somebody says where it is
    /// @param samePaths whether the others are where another workstation sees them, as far as there is a folder
    /// @param again whether the name may be that of a workstation which joined before and works no more
    public record Joining(Desk desk, Map<String, Path> places, boolean samePaths, boolean again) {
        public Joining {
            places = Map.copyOf(places);
        }
    }

    /// Makes a folder on this workstation a member of a shared project.
    ///
    /// @return the project's roots as this workstation sees them now
    /// @throws InputRefused when the folder holds a project, the name is taken, or a root or a folder is not
    ///     there; nothing is changed then
    public static List<Root> join(Path folder, SharedAddress address, Joining joining, InstantSource clock) {
        Desk desk = joining.desk();
        if (Project.isIn(folder)) {
            throw notJoined(folder + " holds a project already", "Choose a folder without one.");
        }
        try (Catalogue catalogue = Catalogue.open(address, clock, desk)) {
            Map<String, Root> known = catalogue.roots().all().stream()
                    .collect(Collectors.toMap(Root::name, root -> root, (first, _) -> first));
            Map<Root, Path> placed = new HashMap<>();
            joining.places().forEach((name, path) -> {
                Root root = Optional.ofNullable(known.get(name))
                        .orElseThrow(() -> notJoined(
                                "it has no root named " + name, "It has " + String.join(", ", known.keySet()) + "."));
                if (!Files.isDirectory(path) && !mayBeMade(root, path)) {
                    throw notJoined(
                            path + ", given for " + name + ", is no folder on this workstation",
                            "Mount its volume, or leave that root out.");
                }
                placed.put(root, path.toAbsolutePath().normalize());
            });
            if (joining.samePaths()) {
                catalogue.roots().all().stream()
                        .filter(root -> !placed.containsKey(root))
                        .forEach(root -> elsewhere(catalogue, root).ifPresent(path -> placed.put(root, path)));
            }
            Path made = Documents.ensureFolder(folder);
            catalogue.machines().join(desk.person(), joining.again()).ifPresent(taken -> {
                throw notJoined(
                        "a workstation joined under the name " + desk.workstation()
                                + (taken.isEmpty() ? "" : ", with " + taken),
                        "Give this one another name with --as. Where this is that workstation with a new folder, say"
                                + " --again; nothing may be at work in the old one.");
            });
            catalogue.roots().place(placed);
            keep(made, new Membership(address.uri(), address.schema(), desk.workstation(), desk.person()));
            return catalogue.roots().all();
        }
    }

    /// Where another workstation sees a root and something is here too.
    private static Optional<Path> elsewhere(Catalogue catalogue, Root root) {
        return catalogue.roots().pathsElsewhere().stream()
                .filter(row -> row.get(0).equals(root.id()))
                .map(row -> Path.of(row.get(2)))
                .filter(Path::isAbsolute) // another system's paths are none here
                .filter(path -> Files.isDirectory(path) || mayBeMade(root, path))
                .findFirst();
    }

    /// The folder for copies is made with the first of them.
    private static boolean mayBeMade(Root root, Path path) {
        Path parent = path.toAbsolutePath().getParent();
        return root.id().equals(Root.COPIES) && parent != null && Files.isDirectory(parent);
    }

    private static InputRefused notJoined(String why, String todo) {
        return new InputRefused(new Problem("The shared project was not joined", why, "Nothing was changed.", todo));
    }
}
