package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/// Gives files other names in their folders, all of them or none. They go by names that nobody else uses
/// first, so that two may exchange theirs. A journal says what is being done, so that a program that was
/// killed meanwhile finds out at its next start, and gives every file its old name back.
public final class Renames {
    private static final String ASIDE = "aside";
    private static final String PLACING = "placing";
    private static final String HEAD = ".renaming-";
    private static final Pattern OWN = Pattern.compile("\\.renaming-[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}");

    private final Path journal;
    private final List<Step> steps;

    /// One file: its old name, the one on the way, the new one.
    private record Step(Path from, Path aside, Path to) {
        String line() {
            return from.toUri() + "\t" + aside.toUri() + "\t" + to.toUri();
        }

        static Step of(String line) {
            String[] paths = line.split("\t", -1);
            if (paths.length != 3) {
                throw new IllegalArgumentException("not a step of a renaming: " + line);
            }
            var step = new Step(
                    Path.of(URI.create(paths[0])), Path.of(URI.create(paths[1])), Path.of(URI.create(paths[2])));
            if (!step.isOfOneFolder()
                    || !OWN.matcher(step.aside.getFileName().toString()).matches()) {
                throw new IllegalArgumentException("not a step of a renaming in one folder: " + line);
            }
            return step;
        }

        /// A journal comes with the project, from whomever: it moves nothing out of its folder.
        private boolean isOfOneFolder() {
            Path folder = from.getParent();
            return folder != null
                    && folder.equals(aside.getParent())
                    && folder.equals(to.getParent())
                    && List.of(from, aside, to).stream().allMatch(path -> path.equals(path.normalize()));
        }
    }

    private Renames(Path journal, List<Step> steps) {
        this.journal = journal;
        this.steps = steps;
    }

    /// Renames all files. The journal stays until [#done]: whoever keeps the names elsewhere does so
    /// before.
    ///
    /// @param names the file that each gets to be, in the same folder
    /// @throws StorageFailed when one cannot be renamed or a name is taken; all files have their old
    ///     names then
    public static Renames carryOut(Map<Path, Path> names, Path journal) {
        Renames renames = begin(names, journal);
        renames.setAside();
        renames.place();
        return renames;
    }

    static Renames begin(Map<Path, Path> names, Path journal) {
        refuse(names);
        var steps = new ArrayList<Step>();
        names.forEach((from, to) -> steps.add(new Step(
                from.toAbsolutePath(),
                from.toAbsolutePath().resolveSibling(HEAD + UUID.randomUUID()),
                to.toAbsolutePath())));
        return new Renames(journal, steps);
    }

    void setAside() {
        write(ASIDE);
        try {
            for (Step step : steps) {
                Files.move(step.from, step.aside, StandardCopyOption.ATOMIC_MOVE);
            }
        } catch (IOException e) {
            throw failed(e);
        }
    }

    void place() {
        write(PLACING);
        try {
            for (Step step : steps) {
                // Not replacing: what came in between keeps its name, and everything goes back.
                Files.move(step.aside, step.to);
            }
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /// The new names are kept elsewhere now.
    public void done() {
        try {
            Files.deleteIfExists(journal);
        } catch (IOException e) {
            System.getLogger(Renames.class.getName())
                    .log(System.Logger.Level.WARNING, "left for the next start: " + journal, e);
        }
    }

    /// Gives all files their old names back.
    ///
    /// @return those that could not get theirs, with the reason
    public List<String> takeBack() {
        var lost = new ArrayList<String>();
        if (phase(journal).equals(PLACING)) {
            for (Step step : steps) {
                if (!Files.exists(step.aside, LinkOption.NOFOLLOW_LINKS)) {
                    move(step.to, step.aside, lost);
                }
            }
        }
        for (Step step : steps) {
            if (Files.exists(step.aside, LinkOption.NOFOLLOW_LINKS)) {
                move(step.aside, step.from, lost);
            }
        }
        if (lost.isEmpty()) {
            done();
        }
        return lost;
    }

    private static void move(Path from, Path to, List<String> lost) {
        try {
            Files.move(from, to);
        } catch (IOException e) {
            lost.add(from + " (" + Causes.inWords(e) + ")");
        }
    }

    /// What a program that was killed was doing.
    ///
    /// @return empty when there is no journal, or none that makes sense
    public static Optional<Renames> unfinished(Path journal) {
        if (!Files.isRegularFile(journal)) {
            return Optional.empty();
        }
        try {
            List<Step> steps =
                    Files.readAllLines(journal).stream().skip(1).map(Step::of).toList();
            return Optional.of(new Renames(journal, steps));
        } catch (IOException | IllegalArgumentException e) {
            System.getLogger(Renames.class.getName())
                    .log(System.Logger.Level.WARNING, "not a journal of a renaming: " + journal, e);
            return Optional.empty();
        }
    }

    /// The new names.
    public Set<Path> targets() {
        return steps.stream().map(Step::to).collect(Collectors.toSet());
    }

    private void write(String phase) {
        String lines = steps.stream().map(Step::line).collect(Collectors.joining("\n"));
        Documents.replace(journal, (phase + "\n" + lines + "\n").getBytes(StandardCharsets.UTF_8));
    }

    private static String phase(Path journal) {
        return new String(Documents.read(journal), StandardCharsets.UTF_8)
                .lines()
                .findFirst()
                .orElse("");
    }

    private StorageFailed failed(IOException e) {
        List<String> lost = takeBack();
        return new StorageFailed(
                new Problem(
                        "The files were not renamed",
                        Causes.inWords(e),
                        lost.isEmpty()
                                ? "All of them have the names they had."
                                : "These could not get their names back: " + String.join(", ", lost),
                        "Check the folder's permissions, then try again."),
                e);
    }

    private static void refuse(Map<Path, Path> names) {
        Set<Path> targets = new HashSet<>();
        names.forEach((from, to) -> {
            boolean stays = String.valueOf(from.getParent()).equals(String.valueOf(to.getParent()));
            boolean taken = Files.exists(to, LinkOption.NOFOLLOW_LINKS) && !names.containsKey(to);
            if (!stays || taken || !targets.add(to)) {
                throw new StorageFailed(new Problem(
                        "The files were not renamed",
                        !stays ? to + " is in another folder" : to + " is taken",
                        "All of them have the names they had.",
                        "Choose another pattern."));
            }
        });
    }
}
