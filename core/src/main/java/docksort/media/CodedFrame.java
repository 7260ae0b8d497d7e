package docksort.media;

/// One coded picture in decode order: when it is shown (ticks of the stream's time base), whether decoding can
/// start at it, and its size in bytes.
public record CodedFrame(long shownAtTicks, boolean key, int bytes) {}
