package docksort.media;

/// Words drawn into a copy's picture.
///
/// @param text what is drawn where `what` is [What#TEXT], otherwise empty
public record BurnIn(What what, At at, String text) {
    public static final int LONGEST_TEXT = 120;

    public BurnIn {
        if ((what == What.TEXT) == text.isBlank()) {
            throw new IllegalArgumentException(
                    what == What.TEXT
                            ? "a burned-in text must have words"
                            : "only a burned-in text has words of its own");
        }
        if (text.length() > LONGEST_TEXT || text.chars().anyMatch(Character::isISOControl)) {
            throw new IllegalArgumentException(
                    "a burned-in text is one line of at most " + LONGEST_TEXT + " characters");
        }
    }

    public enum What {
        NAME("clip name"),
        TIMECODE("timecode"),
        FRAME("frame number"),
        TEXT("text");

        private final String label;

        What(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public enum At {
        TOP_LEFT("top left"),
        TOP("top"),
        TOP_RIGHT("top right"),
        CENTRE("centre"),
        BOTTOM_LEFT("bottom left"),
        BOTTOM("bottom"),
        BOTTOM_RIGHT("bottom right");

        private final String label;

        At(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public String label() {
        return (what == What.TEXT ? "\u201C" + text + "\u201D" : what.label()) + " " + at.label();
    }
}
