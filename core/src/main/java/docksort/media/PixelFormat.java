package docksort.media;

/// How samples are stored: the engine's name for it, bits a component, chroma subsampling, whether alpha
/// is there.
public record PixelFormat(String name, int bitDepth, Chroma chroma, boolean alpha) {
    public static final PixelFormat UNKNOWN = new PixelFormat("unknown", 0, Chroma.UNKNOWN, false);

    public PixelFormat {
        if (bitDepth < 0 || bitDepth > 64) {
            throw new IllegalArgumentException("bit depth out of range: " + bitDepth);
        }
    }

    /// The same with transparency that is stored beside the picture.
    public PixelFormat withAlpha() {
        return new PixelFormat(name, bitDepth, chroma, true);
    }

    /// Whether a sample has one colour only, as on a sensor behind a filter.
    public boolean isMosaic() {
        return name.startsWith("bayer_");
    }

    /// "10-bit 4:2:2", with "alpha" where there is one.
    public String label() {
        if (bitDepth == 0) {
            return isMosaic() ? "of a sensor" : "unknown";
        }
        return bitDepth + "-bit " + chroma.label() + (alpha ? " alpha" : "");
    }

    /// Chroma subsampling as the trade names it.
    public enum Chroma {
        C420("4:2:0"),
        C422("4:2:2"),
        C444("4:4:4"),
        C411("4:1:1"),
        C410("4:1:0"),
        C440("4:4:0"),
        RGB("RGB"),
        GREY("grey"),
        UNKNOWN("unknown");

        private final String label;

        Chroma(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }

        /// Whether colour is stored at full width and height.
        public boolean isFull() {
            return this == C444 || this == RGB;
        }
    }
}
