package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.link.Adoption;
import docksort.link.NamePattern;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "adopt",
        description = "Takes over copies that a camera or another program made, or this one for another project."
                + " Only pairs that are sure are taken, unless that is said otherwise.")
final class AdoptCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(index = "0", paramLabel = "FOLDER", description = "Where the copies lie; a file with --of.")
    private Path folder = Path.of("");

    @Option(
            names = "--pattern",
            paramLabel = "PATTERN",
            description = "How copies are named, with a star for the original's name; learned from the set without it.")
    private List<String> patterns = List.of();

    @Option(
            names = "--on-trust",
            description = "Take doubtful pairs, too, by your word alone. Departure checks name them.")
    private boolean onTrust;

    @Option(names = "--of", paramLabel = "CLIP", description = "Say that the file is a copy of this clip.")
    private Optional<String> of = Optional.empty();

    @Option(names = "--preview", description = "Only show what would be taken over.")
    private boolean preview;

    @Override
    public Integer call() throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            Adoption adoption = look(project);
            if (!preview) {
                project.adoptions().adopt(adoption.folder(), taken(adoption));
            }
            return tell(adoption);
        }
    }

    private Adoption look(Project project) throws InterruptedException {
        if (of.isEmpty()) {
            return project.adoptions()
                    .look(folder, patterns.stream().map(NamePattern::parse).toList(), (_, _) -> {}, new Cancellation());
        }
        Adoption.Pair pair = project.adoptions().look(folder, Common.clip(project, of.get()), new Cancellation());
        Path place = pair.file().getParent();
        return new Adoption(place == null ? folder : place, List.of(), List.of(pair), List.of(), List.of());
    }

    private List<Adoption.Pair> taken(Adoption adoption) {
        return adoption.pairs().stream()
                .filter(pair -> pair.level() == Adoption.Level.SURE || (onTrust && pair.isOnTrust()))
                .toList();
    }

    private int tell(Adoption adoption) {
        ObjectNode answer = Common.object();
        answer.put("done", !preview);
        ArrayNode pairs = answer.putArray("pairs");
        for (Adoption.Pair pair : adoption.pairs()) {
            pairs.addObject()
                    .put("file", pair.file().toString())
                    .put("clip", pair.clip().name())
                    .put("level", pair.level().label())
                    .put("reason", pair.reason());
            common.say(
                    "  %-9s %-28s of %-24s %s",
                    pair.level().label(),
                    adoption.folder().relativize(pair.file()),
                    pair.clip().name(),
                    pair.reason());
        }
        ArrayNode unpaired = answer.putArray("unpaired");
        for (Adoption.Unpaired file : adoption.unpaired()) {
            unpaired.addObject().put("file", file.file().toString()).put("reason", file.reason());
            common.say("  %-9s %-28s %s", "unpaired", adoption.folder().relativize(file.file()), file.reason());
        }
        int sure = taken(adoption).size();
        String names = adoption.patterns().stream().map(NamePattern::label).collect(Collectors.joining("  "));
        if (of.isEmpty()) {
            common.say("Names: %s", names.isEmpty() ? "no pattern was found" : names);
        }
        long onTrustOnly =
                adoption.pairs().stream().filter(Adoption.Pair::isOnTrust).count();
        common.say(
                "%d %s%s; %d clips have no copy here",
                sure,
                preview ? "would be taken over" : "taken over",
                onTrust && onTrustOnly > 0 ? ", " + onTrustOnly + " of them on trust" : "",
                adoption.without().size());
        if (!onTrust && onTrustOnly > 0) {
            common.say("%d are doubtful: --on-trust takes them, too, by your word alone", onTrustOnly);
        }
        if (common.json()) {
            common.print(answer);
        }
        return sure == adoption.pairs().size() && adoption.unpaired().isEmpty()
                ? ExitCodes.GOOD
                : ExitCodes.NEEDS_A_LOOK;
    }
}
