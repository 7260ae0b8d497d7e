package docksort.sort;

import docksort.media.Raster;
import docksort.media.ScanType;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import java.util.Optional;

/// The codec a recipe asks for. Where the family or the profile depends on the clip, [#target] says which
/// it becomes.
public enum Encoding {
    PRORES_PROXY("ProRes Proxy", VideoTarget.PRORES_PROXY),
    PRORES_LT("ProRes LT", VideoTarget.PRORES_LT),
    PRORES_422("ProRes 422", VideoTarget.PRORES_422),
    PRORES_HQ("ProRes HQ", VideoTarget.PRORES_HQ),
    PRORES_4444("ProRes 4444", VideoTarget.PRORES_4444),
    VC3_LOW("VC-3, lowest class", VideoTarget.VC3_LB),
    VC3_MIDDLE("VC-3, middle class", VideoTarget.VC3_SQ),
    VC3_BY_DEPTH("VC-3, high class at the clip's depth", VideoTarget.VC3_HQ),
    VC3_LB("VC-3 LB", VideoTarget.VC3_LB),
    VC3_SQ("VC-3 SQ", VideoTarget.VC3_SQ),
    VC3_HQ("VC-3 HQ", VideoTarget.VC3_HQ),
    VC3_HQX("VC-3 HQX", VideoTarget.VC3_HQX),
    VC3_444("VC-3 444", VideoTarget.VC3_444),
    MOTION_JPEG("Motion JPEG", VideoTarget.MOTION_JPEG),
    H264_INTRA("H.264 all-intra at the clip's depth", VideoTarget.H264_INTRA),
    H264_LONG("H.264 long-GOP, small", VideoTarget.H264_LONG),
    HEVC_LONG("HEVC 10 bit long-GOP, small", VideoTarget.HEVC_LONG),
    AV1_LONG("AV1 10 bit long-GOP, smallest", VideoTarget.AV1_LONG),
    CINEFORM("CineForm", VideoTarget.CINEFORM),
    REWRAP("as it is, not encoded anew", null),
    SOUND_ONLY("sound only", null);

    private final String label;
    private final @org.jspecify.annotations.Nullable VideoTarget usual;

    Encoding(String label, @org.jspecify.annotations.Nullable VideoTarget usual) {
        this.label = label;
        this.usual = usual;
    }

    public String label() {
        return label;
    }

    /// What it becomes when nothing about the clip asks for something else; empty for sound alone and where
    /// nothing is encoded.
    public Optional<VideoTarget> usual() {
        return Optional.ofNullable(usual);
    }

    boolean isSoundOnly() {
        return this == SOUND_ONLY;
    }

    /// Whether the picture is taken over without being encoded anew.
    boolean isRewrap() {
        return this == REWRAP;
    }

    /// Whether some profile of the codec carries transparency.
    boolean canKeepAlpha() {
        return usual != null
                && (usual.family() == VideoTarget.Family.PRORES || usual.family() == VideoTarget.Family.CINEFORM);
    }

    /// Whether every codec it may become can be put into a container.
    boolean fits(Wrapper wrapper) {
        if (isSoundOnly() || isRewrap()) {
            return isSoundOnly() == (wrapper == Wrapper.WAV); // which codecs fit is known with the clip
        }
        return usual != null && wrapper.takes(usual);
    }

    /// The codec for one clip: the HD family of VC-3 where its raster exists, otherwise the
    /// resolution-independent
    /// one; ten bits only for sources over eight; a profile with alpha where there is alpha to keep.
    ///
    /// @param alpha whether transparency is there and to be kept
    VideoTarget target(VideoFacts picture, Raster raster, boolean interlaced, boolean alpha) {
        boolean deep = picture.pixels().bitDepth() > 8;
        boolean wide = picture.colour().isWideGamut();
        ScanType scan = interlaced ? picture.scan() : ScanType.PROGRESSIVE;
        return switch (this) {
            case PRORES_PROXY, PRORES_LT, PRORES_422, PRORES_HQ, PRORES_4444 ->
                alpha ? VideoTarget.PRORES_4444 : of(this);
            case CINEFORM -> alpha ? VideoTarget.CINEFORM_ALPHA : VideoTarget.CINEFORM;
            case VC3_LOW -> hdOr(VideoTarget.VC3_HD_LOW, VideoTarget.VC3_LB, raster, scan, wide);
            case VC3_MIDDLE -> hdOr(VideoTarget.VC3_HD_MIDDLE, VideoTarget.VC3_SQ, raster, scan, wide);
            case VC3_BY_DEPTH ->
                deep
                        ? hdOr(VideoTarget.VC3_HD_X, VideoTarget.VC3_HQX, raster, scan, wide)
                        : hdOr(VideoTarget.VC3_HD, VideoTarget.VC3_HQ, raster, scan, wide);
            case H264_INTRA -> deep ? VideoTarget.H264_INTRA_10 : VideoTarget.H264_INTRA;
            default -> of(this);
        };
    }

    private static VideoTarget of(Encoding encoding) {
        return encoding.usual().orElseThrow(() -> new IllegalStateException(encoding + " has no picture"));
    }

    /// The frame header of the HD family has no word for the matrix of BT.2020 (SMPTE ST 2019-1, from
    /// memory).
    private static VideoTarget hdOr(
            VideoTarget hd, VideoTarget independent, Raster raster, ScanType scan, boolean wide) {
        return hd.existsAt(raster, scan) && !wide ? hd : independent;
    }
}
