package docksort.media;

import docksort.media.PixelFormat.Chroma;

/// What a copy's picture is encoded as.
public enum VideoTarget {
    PRORES_PROXY("ProRes Proxy", Family.PRORES, 10, Chroma.C422),
    PRORES_LT("ProRes LT", Family.PRORES, 10, Chroma.C422),
    PRORES_422("ProRes 422", Family.PRORES, 10, Chroma.C422),
    PRORES_HQ("ProRes HQ", Family.PRORES, 10, Chroma.C422),
    PRORES_4444("ProRes 4444", Family.PRORES, 12, Chroma.C444),
    VC3_HD_LOW("VC-3 HD 36/45", Family.VC3, 8, Chroma.C422),
    VC3_HD_MIDDLE("VC-3 HD 120/145", Family.VC3, 8, Chroma.C422),
    VC3_HD("VC-3 HD 185/220", Family.VC3, 8, Chroma.C422),
    VC3_HD_X("VC-3 HD 185/220 X", Family.VC3, 10, Chroma.C422),
    VC3_LB("VC-3 LB", Family.VC3, 8, Chroma.C422),
    VC3_SQ("VC-3 SQ", Family.VC3, 8, Chroma.C422),
    VC3_HQ("VC-3 HQ", Family.VC3, 8, Chroma.C422),
    VC3_HQX("VC-3 HQX", Family.VC3, 10, Chroma.C422),
    VC3_444("VC-3 444", Family.VC3, 10, Chroma.C444),
    MOTION_JPEG("Motion JPEG", Family.MOTION_JPEG, 8, Chroma.C422),
    H264_INTRA("H.264 all-intra", Family.H264, 8, Chroma.C420),
    H264_INTRA_10("H.264 all-intra 10 bit", Family.H264, 10, Chroma.C422),
    H264_LONG("H.264 long-GOP", Family.H264, 8, Chroma.C420),
    HEVC_LONG("HEVC long-GOP 10 bit", Family.HEVC, 10, Chroma.C420),
    AV1_LONG("AV1 long-GOP 10 bit", Family.AV1, 10, Chroma.C420),
    CINEFORM("CineForm", Family.CINEFORM, 10, Chroma.C422),
    CINEFORM_ALPHA("CineForm with alpha", Family.CINEFORM, 12, Chroma.RGB);

    /// Targets that share a codec, by the name [Codec#family] has for it.
    public enum Family {
        PRORES("ProRes"),
        VC3("VC-3"),
        MOTION_JPEG("Motion JPEG"),
        H264("H.264"),
        HEVC("HEVC"),
        AV1("AV1"),
        CINEFORM("CineForm");

        private final String label;

        Family(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    private final String label;
    private final Family family;
    private final int bitDepth;
    private final Chroma chroma;

    VideoTarget(String label, Family family, int bitDepth, Chroma chroma) {
        this.label = label;
        this.family = family;
        this.bitDepth = bitDepth;
        this.chroma = chroma;
    }

    public String label() {
        return label;
    }

    public Family family() {
        return family;
    }

    public int bitDepth() {
        return bitDepth;
    }

    public Chroma chroma() {
        return chroma;
    }

    public boolean hasAlpha() {
        return this == PRORES_4444 || this == CINEFORM_ALPHA;
    }

    public boolean isAllIntra() {
        return this != H264_LONG && this != HEVC_LONG && this != AV1_LONG;
    }

    public boolean isVc3() {
        return family == Family.VC3;
    }

    /// Whether it is of the VC-3 family with fixed rasters.
    public boolean isHdFamily() {
        return switch (this) {
            case VC3_HD_LOW, VC3_HD_MIDDLE, VC3_HD, VC3_HD_X -> true;
            default -> false;
        };
    }

    /// The VC-3 HD family exists only at fixed rasters, and its lowest class only for whole pictures of 1080
    /// lines (SMPTE ST 2019-1, from memory). Other codecs are limited by the engine's encoders.
    public boolean existsAt(Raster raster, ScanType scan) {
        return switch (this) {
            case VC3_HD_LOW -> raster.equals(FULL_HD) && !scan.isInterlaced();
            case VC3_HD_MIDDLE, VC3_HD, VC3_HD_X ->
                raster.equals(FULL_HD) || (raster.equals(HD) && !scan.isInterlaced());
            // The smallest raster that the resolution-independent profiles have (SMPTE ST 2019-1, from memory);
            // the engine's encoder refuses fields in them.
            case VC3_LB, VC3_SQ, VC3_HQ, VC3_HQX, VC3_444 ->
                raster.width() >= 256 && raster.height() >= 120 && !scan.isInterlaced();
            case MOTION_JPEG -> !scan.isInterlaced(); // the engine's encoder refuses fields
            // Coded pictures of HEVC are single fields or whole pictures, and those of AV1 whole ones only.
            case HEVC_LONG, AV1_LONG -> !scan.isInterlaced();
            default -> true;
        };
    }

    private static final Raster FULL_HD = new Raster(1920, 1080);
    private static final Raster HD = new Raster(1280, 720);

    /// Bytes of one coded VC-3 frame, always the same for a raster.
    ///
    /// Resolution-independent profiles: macroblocks x scale, rounded to the nearest multiple of 4096, at least
    /// 8192, with the scales 5888/255 (LB), 18944/255 (SQ), 28672/255 (HQ, HQX) and 57344/255 (444). The HD
    /// family has fixed sizes by compression id: 1253 has 188416 bytes; 1237 and 1242 have 606208; 1235, 1238,
    /// 1241 and 1243 have 917504; at 1280x720, 1252 has 303104 and 1250 and 1251 have 458752. Source: SMPTE ST
    /// 2019-1, from memory, and met by an independent encoder.
    ///
    /// @throws IllegalArgumentException for a codec that is not VC-3, or a raster the HD family does not have
    public long vc3FrameBytes(Raster raster) {
        if (isHdFamily() && !existsAt(raster, ScanType.PROGRESSIVE)) {
            throw new IllegalArgumentException("the VC-3 HD family has no raster " + raster + " for " + label);
        }
        boolean full = raster.equals(FULL_HD);
        return switch (this) {
            case VC3_HD_LOW -> 188_416;
            case VC3_HD_MIDDLE -> full ? 606_208 : 303_104;
            case VC3_HD, VC3_HD_X -> full ? 917_504 : 458_752;
            case VC3_LB -> scaled(raster, 5_888);
            case VC3_SQ -> scaled(raster, 18_944);
            case VC3_HQ, VC3_HQX -> scaled(raster, 28_672);
            case VC3_444 -> scaled(raster, 57_344);
            default -> throw new IllegalArgumentException(label + " frames have no fixed size");
        };
    }

    private static long scaled(Raster raster, long scale255) {
        long exact = raster.macroblocks() * scale255 / 255;
        long rounded = (exact + 2_048) / 4_096 * 4_096;
        return Math.max(8_192, rounded);
    }
}
