package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import docksort.catalogue.Activity;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "log", description = "Lists what was done in the project, the latest first.")
final class LogCommand implements Callable<Integer> {
    private static final DateTimeFormatter AT =
            DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss", Locale.ROOT).withZone(ZoneId.systemDefault());

    @Mixin
    private Common common = new Common();

    @Option(names = "--most", paramLabel = "N", description = "How many lines. Default: ${DEFAULT-VALUE}")
    private int most = 50;

    @Option(names = "--with", paramLabel = "WORDS", description = "Only lines with these words.")
    private String words = "";

    @Override
    public Integer call() {
        common.refuse(most < 0, "--most wants a number from 0 on");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            String wanted = words.toLowerCase(Locale.ROOT);
            List<Activity> found = project.activity(Integer.MAX_VALUE).stream()
                    .filter(deed -> deed.what().toLowerCase(Locale.ROOT).contains(wanted))
                    .limit(most)
                    .toList();
            ArrayNode deeds = Common.object().putArray("done");
            for (Activity deed : found) {
                common.say("%s  %s%s%s", AT.format(deed.at()), who(project, deed), deed.what(), back(deed));
                deeds.addObject()
                        .put("at", deed.at().toString())
                        .put("person", deed.person())
                        .put("workstation", deed.workstation())
                        .put("what", deed.what())
                        .put("back", deed.back().name().toLowerCase(Locale.ROOT));
            }
            if (found.isEmpty()) {
                common.say("Nothing was done%s.", words.isEmpty() ? " yet" : " that says so");
            }
            if (common.json()) {
                common.print(Common.object().set("done", deeds));
            }
            return ExitCodes.GOOD;
        }
    }

    /// Only where several may have done it.
    private static String who(Project project, Activity deed) {
        return project.sharing().address().isEmpty() || deed.person().isEmpty()
                ? ""
                : deed.person() + " at " + deed.workstation() + "  ";
    }

    private static String back(Activity deed) {
        return deed.back() == Activity.Back.TAKEN ? "  (taken back)" : "";
    }
}
