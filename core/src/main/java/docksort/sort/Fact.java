package docksort.sort;

import java.util.List;

/// What a sort rule can ask of a clip.
public enum Fact {
    RASTER("raster", "1920x1080"),
    CODEC("codec", "H.264"),
    FRAME_STRUCTURE("frame structure", "all-intra"),
    SCRUB_COST("scrub cost", "4"),
    PLAY_RATIO("play ratio", "1.5"),
    STRAIN("strain", "hard"),
    BIT_DEPTH("bit depth", "10"),
    ALPHA("alpha", "yes"),
    RATE("frame rate", "50"),
    RATE_KIND("rate", "variable"),
    KIND("kind", "image sequence"),
    ARRIVAL("arrival", ""),
    NAME("name", ""),
    PATH("path", "");

    /// How a fact is compared.
    public enum Is {
        EXACTLY("is"),
        OTHER_THAN("is not"),
        AT_LEAST("at least"),
        LARGER_THAN("larger than"),
        AT_MOST("at most"),
        BELOW("below"),
        HOLDING("has in it");

        private final String label;

        Is(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    private final String label;
    private final String example;

    Fact(String label, String example) {
        this.label = label;
        this.example = example;
    }

    public String label() {
        return label;
    }

    /// A value to start from.
    public String example() {
        return example;
    }

    public List<Is> comparisons() {
        return switch (this) {
            case RASTER -> List.of(Is.LARGER_THAN, Is.AT_LEAST, Is.AT_MOST, Is.EXACTLY);
            case CODEC, STRAIN, KIND -> List.of(Is.EXACTLY, Is.OTHER_THAN);
            case FRAME_STRUCTURE, ALPHA, RATE_KIND -> List.of(Is.EXACTLY);
            case SCRUB_COST -> List.of(Is.AT_LEAST, Is.BELOW);
            case PLAY_RATIO -> List.of(Is.BELOW, Is.AT_LEAST);
            case BIT_DEPTH, RATE -> List.of(Is.AT_LEAST, Is.BELOW, Is.EXACTLY);
            case ARRIVAL -> List.of(Is.EXACTLY, Is.HOLDING);
            case NAME -> List.of(Is.HOLDING, Is.EXACTLY);
            case PATH -> List.of(Is.HOLDING);
        };
    }

    /// The values a fact can have, empty where any can be written.
    public List<String> choices() {
        return switch (this) {
            case FRAME_STRUCTURE -> List.of("all-intra", "long-GOP");
            case STRAIN -> List.of("easy", "fair", "hard", "out of reach");
            case ALPHA -> List.of("yes", "no");
            case RATE_KIND -> List.of("constant", "variable");
            case KIND -> List.of("camera or screen clip", "image sequence", "spanned recording", "sound");
            default -> List.of();
        };
    }
}
