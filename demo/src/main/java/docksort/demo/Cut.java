package docksort.demo;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.media.FrameRate;
import docksort.media.Timecode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/// The cut of the documentary: which part of which take, in order. Written as OpenTimelineIO and as a CMX 3600
/// edit list, both with references to the originals.
final class Cut {
    static final String TIMELINE = "night_optics.otio";
    static final String EDIT_LIST = "night_optics.edl";
    private static final ObjectMapper JSON = new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);
    private static final int RATE = 25;

    private Cut() {}

    /// @param from first frame used, counted from the take's first
    private record Use(String path, String reel, String rate, String timecode, int from, int frames, int available) {
        Timecode start() {
            FrameRate fps = FrameRate.parse(rate);
            return timecode.isEmpty() ? Timecode.zero(fps) : Timecode.parse(timecode, fps);
        }
    }

    private static List<Use> picture() {
        return List.of(
                new Use(Shoot.CARD_N01 + "/CLIPS/N01_C003.MOV", "N01", "50", "02:10:00:00", 6, 30, 40),
                new Use(Shoot.CARD_W21 + "/MAIN/W210031.MP4", "W21", "25", "10:02:11:05", 20, 60, 100),
                new Use(Shoot.STUDIO + "/K5_0018.MOV", "K5", "25", "14:20:00:00", 12, 60, 75),
                new Use(Shoot.DESK + "/DESK_0412.mp4", "DESK", "30", "", 60, 120, 330),
                new Use(Shoot.CARD_W21 + "/MAIN/W210032.MP4", "W21", "25", "10:04:40:00", 5, 60, 75),
                new Use(Shoot.HIGH_SPEED + "/H100_007.MOV", "H100", "100", "16:00:00:00", 10, 80, 100),
                new Use(Shoot.ARCHIVE + "/R2_0007.mxf", "R2", "25", "00:59:50:00", 20, 50, 75),
                new Use(Shoot.ARCHIVE + "/V3_0002.mov", "V3", "30000/1001", "00:59:58;00", 30, 60, 90),
                new Use(Shoot.CARD_N01 + "/CLIPS/N01_C004.MOV", "N01", "50", "02:14:30:10", 0, 28, 30),
                new Use(Shoot.ARCHIVE + "/R2_0011.mov", "R2", "25", "03:00:00:00", 6, 36, 50));
    }

    static void write(Path folder) throws IOException {
        Files.write(folder.resolve(TIMELINE), JSON.writeValueAsBytes(timeline(folder)));
        Files.writeString(folder.resolve(EDIT_LIST), editList(folder));
    }

    private static ObjectNode timeline(Path folder) {
        ObjectNode stack = object("Stack.1", "tracks");
        ArrayNode tracks = stack.putArray("children");
        ObjectNode v1 = track("V1", "Video");
        ArrayNode events = (ArrayNode) v1.get("children");
        for (Use use : picture()) {
            events.add(clip(folder, use, "Clip.2"));
        }
        events.insert(3, transition());
        events.add(stills(folder));
        tracks.add(v1);
        ObjectNode v2 = track("V2", "Video");
        ArrayNode above = (ArrayNode) v2.get("children");
        above.add(gap(50));
        above.add(clip(folder, new Use(Shoot.TITLES + "/Titles_v3.mov", "", "25", "00:00:00:00", 0, 30, 30), "Clip.1"));
        tracks.add(v2);
        ObjectNode a1 = track("A1", "Audio");
        ((ArrayNode) a1.get("children")).add(clip(folder, picture().get(2), "Clip.2"));
        tracks.add(a1);
        ObjectNode root = object("Timeline.1", "Night Optics, cut 7");
        root.set("global_start_time", time(90_000, RATE));
        root.set("tracks", stack);
        ObjectNode foreign = root.putObject("x_house_notes");
        foreign.put("approved_by", "the keeper");
        foreign.putArray("loudness").add(-23.0).add(1.50);
        return root;
    }

    private static ObjectNode object(String schema, String name) {
        ObjectNode node = JSON.createObjectNode();
        node.put("OTIO_SCHEMA", schema);
        node.putObject("metadata");
        node.put("name", name);
        return node;
    }

    private static ObjectNode track(String name, String kind) {
        ObjectNode track = object("Track.1", name);
        track.put("kind", kind);
        track.putNull("source_range");
        track.putArray("effects");
        track.putArray("markers");
        track.putArray("children");
        return track;
    }

    private static ObjectNode gap(int frames) {
        ObjectNode gap = object("Gap.1", "");
        gap.set("source_range", range(0, frames, RATE));
        return gap;
    }

    private static ObjectNode transition() {
        ObjectNode dissolve = object("Transition.1", "dissolve");
        dissolve.put("transition_type", "SMPTE_Dissolve");
        dissolve.set("in_offset", time(6, RATE));
        dissolve.set("out_offset", time(3, RATE)); // the outgoing recording has no more
        return dissolve;
    }

    private static ObjectNode clip(Path folder, Use use, String schema) {
        Path file = folder.resolve(use.path);
        double rate = FrameRate.parse(use.rate).exact().toDouble();
        long start = use.start().frameOfDay();
        String fileName = String.valueOf(file.getFileName());
        ObjectNode clip = object(schema, fileName.substring(0, fileName.lastIndexOf('.')));
        ((ObjectNode) clip.get("metadata")).put("reel", use.reel);
        clip.set("source_range", range(start + use.from, use.frames, rate));
        clip.putArray("effects");
        ObjectNode marker = object("Marker.2", "look");
        marker.set("marked_range", range(start + use.from, 1, rate));
        clip.putArray("markers").add(marker);
        ObjectNode reference = object("ExternalReference.1", fileName);
        reference.set("available_range", range(start, use.available, rate));
        reference.put("target_url", file.toUri().toString());
        return withReference(clip, reference, schema);
    }

    private static ObjectNode withReference(ObjectNode clip, ObjectNode reference, String schema) {
        if (schema.equals("Clip.2")) {
            clip.putObject("media_references").set("DEFAULT_MEDIA", reference);
            clip.put("active_media_reference_key", "DEFAULT_MEDIA");
        } else {
            clip.set("media_reference", reference);
        }
        return clip;
    }

    private static ObjectNode stills(Path folder) {
        ObjectNode clip = object("Clip.2", "DOME");
        clip.set("source_range", range(0, 40, RATE));
        ObjectNode reference = object("ImageSequenceReference.1", "DOME");
        reference.set("available_range", range(0, 48, RATE));
        reference.put(
                "target_url_base", folder.resolve(Shoot.TIME_LAPSE).toUri().toString());
        reference.put("name_prefix", "DOME_");
        reference.put("name_suffix", ".png");
        reference.put("start_frame", 1);
        reference.put("frame_step", 1);
        reference.put("rate", (double) RATE);
        reference.put("frame_zero_padding", 4);
        reference.put("missing_frame_policy", "error");
        return withReference(clip, reference, "Clip.2");
    }

    private static ObjectNode range(long start, long frames, double rate) {
        ObjectNode range = JSON.createObjectNode();
        range.put("OTIO_SCHEMA", "TimeRange.1");
        range.set("duration", time(frames, rate));
        range.set("start_time", time(start, rate));
        return range;
    }

    private static ObjectNode time(long value, double rate) {
        ObjectNode time = JSON.createObjectNode();
        time.put("OTIO_SCHEMA", "RationalTime.1");
        time.put("rate", rate);
        time.put("value", (double) value);
        return time;
    }

    /// CMX 3600: event, reel, track, cut, source in and out, record in and out.
    private static String editList(Path folder) {
        var text = new StringBuilder("TITLE: NIGHT OPTICS CUT 7\nFCM: NON-DROP FRAME\n\n");
        var fps = FrameRate.FPS_25;
        Timecode record = Timecode.parse("01:00:00:00", fps);
        int number = 1;
        for (Use use : picture()) {
            FrameRate rate = FrameRate.parse(use.rate);
            long shown = fps.framesIn(rate.secondsOf(use.frames));
            Timecode in = use.start().plus(use.from);
            text.append(String.format(
                    Locale.ROOT,
                    "%03d  %-8s V     C        %s %s %s %s%n",
                    number++,
                    use.reel,
                    in,
                    in.plus(use.frames),
                    record,
                    record.plus(shown)));
            text.append("* FROM CLIP NAME: ")
                    .append(use.path.substring(use.path.lastIndexOf('/') + 1))
                    .append('\n');
            text.append("* SOURCE FILE: ").append(folder.resolve(use.path)).append("\n\n");
            record = record.plus(shown);
        }
        return text.toString();
    }
}
