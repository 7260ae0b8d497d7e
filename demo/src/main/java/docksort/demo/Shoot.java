package docksort.demo;

import java.util.List;
import java.util.stream.Stream;

/// What was recorded for *Night Optics*, and how.
final class Shoot {
    static final String CARD_N01 = "volume A/Card N01";
    static final String CARD_W21 = "volume A/Card W21";
    static final String HIGH_SPEED = "volume A/High speed H100";
    static final String STUDIO = "volume A/Studio K5";
    static final String DESK = "volume A/Desk recordings";
    static final String TIME_LAPSE = "volume A/Time-lapse dome";
    static final String TITLES = "volume A/Titles";
    static final String ARCHIVE = "volume A/Archive R2";
    static final String SHUTTLE = "volume B/Shuttle drive";
    static final List<String> ARRIVALS =
            List.of(CARD_N01, CARD_W21, HIGH_SPEED, STUDIO, DESK, TIME_LAPSE, TITLES, ARCHIVE, SHUTTLE);

    private Shoot() {}

    private static List<String> x264(String... more) {
        return join(
                List.of("-c:v", "libx264", "-preset", "ultrafast", "-coder", "1", "-8x8dct", "1", "-threads", "2"),
                List.of(more));
    }

    private static List<String> x265(String... more) {
        return join(List.of("-c:v", "libx265", "-preset", "ultrafast"), List.of(more));
    }

    private static List<String> join(List<String> a, List<String> b) {
        return Stream.concat(a.stream(), b.stream()).toList();
    }

    static List<Take> takes() {
        return List.of(
                uhd("N01_C003", Scene.SKY, 40, "02:10:00:00", "take 3: clouds gone"),
                uhd("N01_C004", Scene.MIRROR, 30, "02:14:30:10", "take 4: mirror out of its cell"),
                titles(),
                desk("DESK_0412", 330, "alignment log"),
                desk("DESK_0413", 120, "first light, guiding"),
                archiveInterlaced(),
                highSpeed("H100_007", Scene.MIRROR, 100, "drops on glass"),
                highSpeed("H100_008", Scene.SKY, 80, "dome turns"),
                hd("W210031", Scene.WORKSHOP, 100, "10:02:11:05", "bench, before"),
                hd("W210032", Scene.MIRROR, 75, "10:04:40:00", "first rinse"),
                hd("W210033", Scene.WORKSHOP, 60, "10:09:03:19", "tube waits"),
                intra("K5_0018", Scene.WORKSHOP, 75, "14:20:00:00", "the keeper talks, wide"),
                intra("K5_0019", Scene.MIRROR, 50, "14:26:12:00", "the keeper talks, glass behind"),
                archiveAnamorphic(),
                dropFrame());
    }

    /// UHD 50p, HEVC Main 10, keyframe every half second.
    private static Take uhd(String name, Scene scene, int frames, String timecode, String caption) {
        return new Take(
                CARD_N01 + "/CLIPS/" + name + ".MOV",
                scene,
                3840,
                2160,
                "50",
                frames,
                timecode,
                caption,
                "yuv420p10le",
                List.of(),
                x265(
                        "-crf",
                        "30",
                        "-tag:v",
                        "hvc1",
                        "-x265-params",
                        "keyint=25:min-keyint=25:scenecut=0:bframes=0:open-gop=0:log-level=none"),
                2);
    }

    /// HD 25p, 8-bit 4:2:0, groups of twelve with two B-frames.
    private static Take hd(String name, Scene scene, int frames, String timecode, String caption) {
        return new Take(
                CARD_W21 + "/MAIN/" + name + ".MP4",
                scene,
                1920,
                1080,
                "25",
                frames,
                timecode,
                caption,
                "yuv420p",
                List.of(),
                x264(
                        "-crf",
                        "22",
                        "-g",
                        "12",
                        "-keyint_min",
                        "12",
                        "-sc_threshold",
                        "0",
                        "-bf",
                        "2",
                        "-profile:v",
                        "high",
                        "-write_tmcd",
                        "1"),
                2);
    }

    /// HD at 100 frames a second, without sound, and without companions: the camera records none at this
    /// rate.
    private static Take highSpeed(String name, Scene scene, int frames, String caption) {
        return new Take(
                HIGH_SPEED + "/" + name + ".MOV",
                scene,
                1920,
                1080,
                "100",
                frames,
                "16:00:00:00",
                caption,
                "yuv420p",
                List.of(),
                x264("-crf", "24", "-g", "50", "-keyint_min", "50", "-sc_threshold", "0", "-bf", "2"),
                0);
    }

    /// H.264 by name, but every frame stands alone.
    private static Take intra(String name, Scene scene, int frames, String timecode, String caption) {
        return new Take(
                STUDIO + "/" + name + ".MOV",
                scene,
                1920,
                1080,
                "25",
                frames,
                timecode,
                caption,
                "yuv422p10le",
                List.of(),
                x264(
                        "-crf",
                        "20",
                        "-g",
                        "1",
                        "-bf",
                        "0",
                        "-profile:v",
                        "high422",
                        "-x264-params",
                        "avcintra-class=0:keyint=1"),
                4);
    }

    /// The telescope's control program: frames come when something moves, a keyframe every ten seconds,
    /// three B-frames.
    private static Take desk(String name, int frames, String caption) {
        return new Take(
                DESK + "/" + name + ".mp4",
                Scene.DESK,
                2560,
                1440,
                "30",
                frames,
                "",
                caption,
                "yuv420p",
                List.of("select='not(eq(mod(n\\,7)\\,3))*not(between(mod(n\\,45)\\,20\\,24))'"),
                x264(
                        "-crf",
                        "26",
                        "-g",
                        "100000",
                        "-keyint_min",
                        "2",
                        "-sc_threshold",
                        "0",
                        "-bf",
                        "3",
                        "-b_strategy",
                        "0",
                        "-force_key_frames",
                        "expr:gte(t,n_forced*10)",
                        "-fps_mode",
                        "vfr"),
                2);
    }

    private static Take titles() {
        return new Take(
                TITLES + "/Titles_v3.mov",
                Scene.CLEAR,
                1920,
                1080,
                "25",
                30,
                "00:00:00:00",
                "NIGHT OPTICS",
                "yuva444p10le",
                List.of(),
                List.of("-c:v", "prores_ks", "-profile:v", "4444", "-alpha_bits", "16", "-vendor", "dock"),
                0);
    }

    private static Take archiveInterlaced() {
        return new Take(
                ARCHIVE + "/R2_0007.mxf",
                Scene.SKY,
                1920,
                1080,
                "25",
                75,
                "00:59:50:00",
                "archive reel, first dome",
                "yuv422p",
                List.of("setfield=tff"),
                List.of(
                        "-c:v",
                        "mpeg2video",
                        "-b:v",
                        "30M",
                        "-maxrate",
                        "35M",
                        "-bufsize",
                        "8M",
                        "-g",
                        "12",
                        "-bf",
                        "2",
                        "-flags",
                        "+ildct+ilme",
                        "-field_order",
                        "tt",
                        "-profile:v",
                        "0",
                        "-level:v",
                        "2"),
                2);
    }

    private static Take archiveAnamorphic() {
        return new Take(
                ARCHIVE + "/R2_0011.mov",
                Scene.WORKSHOP,
                1440,
                1080,
                "25",
                50,
                "03:00:00:00",
                "archive reel, 4:3 pixels",
                "yuv420p",
                List.of("setsar=4/3"),
                x264("-crf", "22", "-g", "50", "-keyint_min", "50", "-sc_threshold", "0", "-bf", "0"),
                2);
    }

    private static Take dropFrame() {
        return new Take(
                ARCHIVE + "/V3_0002.mov",
                Scene.SKY,
                1920,
                1080,
                "30000/1001",
                90,
                "00:59:58;00",
                "visitors, 29.97 drop",
                "yuv420p",
                List.of(),
                x264("-crf", "22", "-g", "15", "-keyint_min", "15", "-sc_threshold", "0", "-bf", "2"),
                2);
    }
}
