package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import docksort.engine.MediaEngine;
import docksort.media.ByteSize;
import docksort.project.Project;
import docksort.run.RunReport;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "runs", description = "Tells what runs made, the latest first, and writes the report of one of them.")
final class RunsCommand implements Callable<Integer> {
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ROOT);

    @Mixin
    private Common common = new Common();

    @Option(names = "--most", paramLabel = "NUMBER", description = "How many runs. Default: ${DEFAULT-VALUE}")
    private int most = 20;

    @Option(names = "--report", paramLabel = "FILE", description = "Write a report, HTML or CSV by its ending.")
    private Optional<Path> report = Optional.empty();

    @Option(
            names = "--of",
            paramLabel = "NUMBER",
            description = "Of which run, 1 being the latest. Default: ${DEFAULT-VALUE}")
    private int of = 1;

    @Override
    public Integer call() {
        common.refuse(most < 1 || most > 10_000, "--most wants a number from 1 to 10000");
        common.refuse(of < 1, "--of wants a number from 1 on");
        String name = report.map(Path::toString).orElse(".html").toLowerCase(Locale.ROOT);
        common.refuse(
                !name.endsWith(".html") && !name.endsWith(".csv"), "--report wants a file that ends in .html or .csv");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            int known = project.runs().all().size();
            common.refuse(
                    report.isPresent() && of > known, "--of wants a number up to " + known + ", the runs there are");
            List<RunReport> runs = project.runs().reports(Math.max(most, report.isPresent() ? of : 0));
            report.ifPresent(file -> runs.get(of - 1).write(file));
            tell(runs.subList(0, Math.min(most, runs.size())));
            return ExitCodes.GOOD;
        }
    }

    private void tell(List<RunReport> runs) {
        for (int i = 0; i < runs.size(); i++) {
            RunReport run = runs.get(i);
            common.say(
                    "%4d  %s  %d made and checked, %d failed, %s%s",
                    i + 1,
                    TIME.format(run.started().atZone(ZoneId.systemDefault())),
                    run.ready(),
                    run.failed(),
                    new ByteSize(run.bytes()),
                    run.originalBytes() == 0 ? "" : " of originals that have " + new ByteSize(run.originalBytes()));
        }
        if (runs.isEmpty()) {
            common.say("No run has made anything yet");
        }
        if (common.json()) {
            var answer = Common.object();
            ArrayNode all = answer.putArray("runs");
            runs.forEach(run -> all.addObject()
                    .put("started", run.started().toString())
                    .put("ended", run.ended().toString())
                    .put("ready", run.ready())
                    .put("failed", run.failed())
                    .put("bytes", run.bytes())
                    .put("originalBytes", run.originalBytes()));
            common.print(answer);
        }
    }
}
