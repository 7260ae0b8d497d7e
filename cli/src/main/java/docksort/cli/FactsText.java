package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.media.AudioStream;
import docksort.media.ClipFacts;
import docksort.media.FrameStructure;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.strain.Strain;

/// Facts of a clip as one line, and as JSON.
final class FactsText {
    private FactsText() {}

    static String line(Clip clip, Strain strain) {
        ClipFacts facts = clip.facts();
        if (facts.findings().outOfReach().isPresent()) {
            String picture = facts.video()
                    .map(v -> v.raster() + " · " + v.rate().label() + " fps · "
                            + v.frames().count() + " frames · ")
                    .orElse("lacks " + String.join(", ", facts.lacking()) + " (see describe) · ");
            return picture + "out of reach here: "
                    + facts.findings().outOfReach().get() + ", " + facts.size();
        }
        if (facts.video().isEmpty()) {
            return "sound only, " + facts.audio().size() + " streams, " + facts.size();
        }
        VideoFacts v = facts.video().get();
        String structure = !v.structure().isKnown()
                ? "stills"
                : v.structure().isAllIntra()
                        ? "all-intra"
                        : "long-GOP, keyframe every "
                                + v.structure().keyframeInterval().meanFrames().rounded();
        return String.join(
                " · ",
                facts.container(),
                v.codec().label(),
                v.raster().toString(),
                v.rate().label() + " fps " + v.rateKind().label(),
                v.pixels().label(),
                structure,
                v.frames().count() + " frames",
                facts.startTimecode().map(Timecode::toString).orElse("no timecode"),
                facts.size().toString(),
                strain.verdict().label() + (strain.reasons().isEmpty() ? "" : ": " + strain.firstReason()));
    }

    static void put(ObjectNode node, Clip clip, Strain strain) {
        ClipFacts facts = clip.facts();
        node.put("name", clip.name());
        node.put("file", clip.source().head().toString());
        node.put("files", clip.source().files().size());
        node.put("fingerprint", clip.fingerprint().toString());
        node.put("container", facts.container());
        node.put("bytes", facts.size().bytes());
        node.put("timecode", facts.startTimecode().map(Timecode::toString).orElse(null));
        node.put("reel", facts.reel().orElse(null));
        facts.video().ifPresent(v -> {
            ObjectNode video = node.putObject("video");
            video.put("codec", v.codec().name());
            video.put("profile", v.codec().profile());
            video.put("width", v.raster().width());
            video.put("height", v.raster().height());
            video.put("pixelAspect", v.pixelAspect().toString());
            video.put("rotationDegrees", v.rotationDegrees());
            video.put("scan", v.scan().label());
            video.put("rate", v.rate().toString());
            video.put("rateKind", v.rateKind().label());
            video.put("frames", v.frames().count());
            video.put("framesCertain", v.frames().isCertain());
            video.put("bitDepth", v.pixels().bitDepth());
            video.put("chroma", v.pixels().chroma().label());
            video.put("alpha", v.pixels().alpha());
            video.put("allIntra", v.structure().isAllIntra() || !v.structure().isKnown());
            video.put(
                    "keyframeIntervalFrames",
                    v.structure().keyframeInterval().meanFrames().toDouble());
            video.put(
                    "keyframeIntervalWorstFrames",
                    v.structure().keyframeInterval().worstFrames());
            video.put(
                    "keyframeIntervalSeconds",
                    v.structure().keyframeInterval().meanSeconds().toDouble());
            video.put("twoWayRun", v.structure().longestTwoWayRun());
            video.put("reorderDepth", v.structure().reorderDepth());
            video.put("groups", v.structure().grouping().label());
            video.put("structureRead", v.structure().extent() == FrameStructure.Extent.WHOLE ? "whole" : "sampled");
            video.put("colour", v.colour().label());
        });
        ObjectNode stated = node.putObject("stated");
        facts.tags().forEach(stated::put);
        ArrayNode lacking = node.putArray("lacking");
        facts.lacking().forEach(lacking::add);
        ArrayNode complaints = node.putArray("complaints");
        facts.complaints().forEach(complaints::add);
        ArrayNode contradictions = node.putArray("contradictions");
        facts.findings().contradictions().forEach(two -> contradictions.add(two.label()));
        ArrayNode audio = node.putArray("audio");
        for (AudioStream stream : facts.audio()) {
            audio.addObject()
                    .put("codec", stream.codec())
                    .put("channels", stream.channels())
                    .put("samplesPerSecond", stream.samplesPerSecond())
                    .put("bitsPerSample", stream.bitsPerSample());
        }
        ObjectNode judged = node.putObject("strain");
        judged.put("verdict", strain.verdict().label());
        strain.scrubCost().ifPresent(cost -> {
            judged.put("scrubCostMean", cost.mean().toDouble());
            judged.put("scrubCostWorst", cost.worst());
        });
        ArrayNode reasons = judged.putArray("reasons");
        strain.reasons()
                .forEach(reason -> reasons.addObject()
                        .put("figure", reason.figure())
                        .put("text", reason.text())
                        .put("remedy", reason.remedy()));
    }
}
