package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.look.PngImage;
import docksort.media.KeptFile;
import docksort.media.KeptFile.Kind;
import docksort.media.KeptImage;
import docksort.project.Looks;
import docksort.project.Project;
import docksort.sort.Recipe;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "looks",
        description = "Lists the lookup tables and images that recipes can use, adds some and takes some out.")
final class LooksCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(
            names = "--add",
            paramLabel = "FILE",
            description = "A .cube file of three dimensions, or a PNG image; may be repeated.")
    private List<Path> added = new ArrayList<>();

    @Option(
            names = "--remove",
            paramLabel = "NAME",
            description = "What no recipe uses, by its name or by how its digest begins; may be repeated.")
    private List<String> removed = new ArrayList<>();

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            for (Path file : added) {
                if (PngImage.isOne(Documents.read(file))) {
                    project.looks().addImage(file);
                } else {
                    project.looks().add(file);
                }
            }
            for (String name : removed) {
                remove(name, project.looks());
            }
            tell(project);
            return ExitCodes.GOOD;
        }
    }

    private void remove(String name, Looks looks) {
        List<KeptFile> tables = named(name, looks.all());
        List<KeptFile> images =
                named(name, looks.images().stream().map(KeptImage::file).toList());
        int found = tables.size() + images.size();
        common.refuse(found == 0, "there is no lookup table or image " + name);
        common.refuse(found > 1, "there are " + found + " lookup tables and images " + name + ": give the digest");
        tables.forEach(table -> looks.remove(Kind.TABLE, table));
        images.forEach(image -> looks.remove(Kind.IMAGE, image));
    }

    private static List<KeptFile> named(String name, List<KeptFile> all) {
        return all.stream()
                .filter(file -> file.name().equals(name)
                        || (name.length() >= 6 && file.digest().startsWith(name)))
                .toList();
    }

    private void tell(Project project) {
        List<KeptFile> tables = project.looks().all();
        List<KeptImage> images = project.looks().images();
        var answer = Common.object();
        ArrayNode tablesTold = answer.putArray("tables");
        for (KeptFile table : tables) {
            tell(tablesTold.addObject(), Kind.TABLE, table, table.name(), project);
        }
        ArrayNode imagesTold = answer.putArray("images");
        for (KeptImage image : images) {
            String words = image.file().name() + ", " + image.size();
            tell(imagesTold.addObject(), Kind.IMAGE, image.file(), words, project);
        }
        if (tables.isEmpty() && images.isEmpty()) {
            common.say("No lookup tables or images yet: dock-sort looks --add FILE.cube");
        }
        if (common.json()) {
            common.print(answer);
        }
    }

    private void tell(ObjectNode into, Kind kind, KeptFile file, String words, Project project) {
        List<String> users = project.book().now().own().stream()
                .filter(recipe -> Looks.used(kind, recipe).filter(file::equals).isPresent())
                .map(Recipe::id)
                .toList();
        users.forEach(into.put("name", file.name()).put("digest", file.digest()).putArray("recipes")::add);
        common.say(
                "%s  %s  %s",
                file.digest().substring(0, 12),
                words,
                users.isEmpty() ? "in no recipe" : "in " + String.join(", ", users));
    }
}
