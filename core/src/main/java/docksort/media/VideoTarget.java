package docksort.media;

/// What a copy's picture is encoded as. Every one of them stores each frame by itself.
public enum VideoTarget {
    PRORES_PROXY("ProRes Proxy", 10),
    VC3_HD("VC-3 HD 185/220", 8),
    VC3_HD_X("VC-3 HD 185/220 X", 10),
    VC3_LB("VC-3 LB", 8),
    VC3_HQ("VC-3 HQ", 8),
    VC3_HQX("VC-3 HQX", 10);

    private final String label;
    private final int bitDepth;

    VideoTarget(String label, int bitDepth) {
        this.label = label;
        this.bitDepth = bitDepth;
    }

    public String label() {
        return label;
    }

    public int bitDepth() {
        return bitDepth;
    }

    public boolean isVc3() {
        return this != PRORES_PROXY;
    }

    /// The VC-3 HD family exists only at fixed rasters (SMPTE ST 2019-1, from memory).
    public static boolean fitsHdFamily(Raster raster, ScanType scan) {
        return raster.equals(new Raster(1920, 1080)) || (raster.equals(new Raster(1280, 720)) && !scan.isInterlaced());
    }

    /// Bytes of one coded VC-3 frame, always the same for a raster.
    ///
    /// Resolution-independent profiles: macroblocks x scale, rounded to the nearest multiple of 4096, at least
    /// 8192, with the scales 5888/255 (LB) and 28672/255 (HQ, HQX). The HD family has fixed sizes by
    /// compression id: 1235, 1238, 1241 and 1243 at 1920x1080 have 917504 bytes, 1250 and 1251 at 1280x720 have
    /// 458752. Source: SMPTE ST 2019-1, from memory, and met by an independent encoder.
    ///
    /// @throws IllegalArgumentException for a codec that is not VC-3, or a raster the HD family does not have
    public long vc3FrameBytes(Raster raster) {
        return switch (this) {
            case PRORES_PROXY -> throw new IllegalArgumentException("ProRes frames have no fixed size");
            case VC3_HD, VC3_HD_X -> {
                if (!fitsHdFamily(raster, ScanType.PROGRESSIVE)) {
                    throw new IllegalArgumentException("the VC-3 HD family has no raster " + raster);
                }
                yield raster.height() == 1080 ? 917_504 : 458_752;
            }
            case VC3_LB -> scaled(raster, 5_888);
            case VC3_HQ, VC3_HQX -> scaled(raster, 28_672);
        };
    }

    private static long scaled(Raster raster, long scale255) {
        long exact = raster.macroblocks() * scale255 / 255;
        long rounded = (exact + 2_048) / 4_096 * 4_096;
        return Math.max(8_192, rounded);
    }
}
