package docksort.media;

import java.util.Set;

/// The container of a copy.
public enum Wrapper {
    MOV("MOV", "mov"),
    MXF("MXF OP1a", "mxf"),
    MP4("MP4", "mp4"),
    WAV("WAV", "wav");

    private final String label;
    private final String ending;

    Wrapper(String label, String ending) {
        this.label = label;
        this.ending = ending;
    }

    public String label() {
        return label;
    }

    /// File name ending without its dot.
    public String ending() {
        return ending;
    }

    /// Whether the coded frames of a clip can be put into it as they are, and read by others.
    public boolean takes(Codec codec) {
        return switch (this) {
            case MOV ->
                Set.of("h264", "hevc", "prores", "dnxhd", "mjpeg", "cfhd", "mpeg2video", "mpeg4", "dvvideo", "qtrle")
                        .contains(codec.name());
            case MP4 -> Set.of("h264", "hevc", "av1", "vp9", "mpeg4").contains(codec.name());
            case MXF -> Set.of("mpeg2video", "dnxhd", "prores").contains(codec.name());
            case WAV -> false;
        };
    }

    /// Whether a codec can be put into it by the engine and read by others (operational pattern 1a: SMPTE ST
    /// 378;
    /// MP4: the registration authority's list; both from memory).
    public boolean takes(VideoTarget target) {
        return switch (this) {
            case MOV -> target.family() != VideoTarget.Family.AV1;
            case MXF ->
                target.isVc3()
                        || target.family() == VideoTarget.Family.PRORES
                        || target == VideoTarget.H264_INTRA
                        || target == VideoTarget.H264_INTRA_10;
            case MP4 ->
                switch (target.family()) {
                    case H264, HEVC, AV1 -> true;
                    case PRORES, VC3, MOTION_JPEG, CINEFORM -> false;
                };
            case WAV -> false;
        };
    }
}
