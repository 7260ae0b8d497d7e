package docksort.strain;

/// One reason of a verdict.
///
/// @param weight how hard the clip is for this reason alone
/// @param figure the number the reason rests on, short enough for a margin: "301", "VFR", "2560"
/// @param text what it means
/// @param remedy what helps, or that a working copy does not
public record Reason(Verdict weight, String figure, String text, String remedy) {}
