package docksort.desktop.workshop;

/// Measuring while it goes on.
///
/// @param what the clip or volume, and the step of it
public record MeasureProgress(String what, int done, int all, boolean running) {
    public static final MeasureProgress NONE = new MeasureProgress("", 0, 0, false);
}
