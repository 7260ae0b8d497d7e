package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.ArrivalId;
import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.arrival.ScanResult;
import docksort.arrival.Unreadable;
import docksort.engine.Cancellation;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.link.SamePictures;
import docksort.project.Project;
import docksort.run.PictureCheck;
import docksort.strain.StrainJudge;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "inspect", description = "Looks into folders of footage and tells the facts of every clip.")
final class InspectCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(arity = "1..*", paramLabel = "FOLDER", description = "Folders of cards, drives or recordings.")
    private List<Path> folders = new ArrayList<>();

    @Option(names = "--add", description = "Also add them to the project as arrivals.")
    private boolean add;

    @Override
    public Integer call() throws InterruptedException {
        boolean look = false;
        ObjectNode answer = Common.object();
        ArrayNode arrivals = answer.putArray("arrivals");
        try (MediaEngine engine = MediaEngine.locate()) {
            if (add) {
                try (Project project = common.openOrBegin(engine)) {
                    for (Path folder : folders) {
                        ScanResult result = project.arrivals().add(folder, ScanListener.none(), new Cancellation());
                        look |= tell(folder, result, project.settings().timelineFormat(), arrivals);
                    }
                }
            } else {
                var scan = new ArrivalScan(
                        new Inspector(engine),
                        new SamePictures(new PictureCheck(engine), new Cancellation()),
                        Math.max(2, Runtime.getRuntime().availableProcessors()));
                for (Path folder : folders) {
                    ScanResult result = scan.scan(
                            ArrivalId.fresh(),
                            folder.toAbsolutePath().normalize(),
                            ArrivalScan.Before.NOTHING,
                            TimelineFormat.HD_25.rate(),
                            ScanListener.none(),
                            new Cancellation());
                    look |= tell(folder, result, TimelineFormat.HD_25, arrivals);
                }
            }
        }
        if (common.json()) {
            common.print(answer);
        }
        return look ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
    }

    private boolean tell(Path folder, ScanResult result, TimelineFormat timeline, ArrayNode into) {
        var judge = new StrainJudge(timeline);
        ObjectNode node = into.addObject();
        node.put("folder", folder.toString());
        common.say(
                "%s: %d clips, %d companions, %d unreadable, %d other files",
                folder,
                result.clips().size(),
                result.companions().size(),
                result.unreadable().size(),
                result.asides().size());
        ArrayNode clips = node.putArray("clips");
        for (Clip clip : result.clips()) {
            var strain = judge.judge(clip);
            FactsText.put(clips.addObject(), clip, strain);
            common.say("  %-24s %s", clip.name(), FactsText.line(clip, strain));
        }
        ArrayNode companions = node.putArray("companions");
        for (var companion : result.companions()) {
            companions
                    .addObject()
                    .put("file", companion.file().toString())
                    .put("original", companion.original().value());
            common.say("  %-24s a copy the camera wrote", companion.file().getFileName());
        }
        ArrayNode unreadable = node.putArray("unreadable");
        for (Unreadable file : result.unreadable()) {
            unreadable
                    .addObject()
                    .put("file", file.file().toString())
                    .put("why", file.problem().why());
            common.say(
                    "  %-24s cannot be read: %s",
                    file.file().getFileName(), file.problem().why());
        }
        return !result.unreadable().isEmpty();
    }
}
