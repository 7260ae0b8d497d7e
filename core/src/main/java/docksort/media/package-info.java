/// The values the rest of the program speaks in: rates and times as exact rationals, timecode, rasters, codecs, the
/// frame structure of a stream. No input, no output, no judgement. Start at [docksort.media.ClipFacts].
@org.jspecify.annotations.NullMarked
package docksort.media;
