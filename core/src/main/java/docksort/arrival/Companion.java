package docksort.arrival;

import docksort.media.ClipFacts;
import docksort.media.Fingerprint;
import java.nio.file.Path;

/// A small file the camera wrote beside an original: not a clip but a copy of one.
///
/// @param proof what tells that it is, in words
public record Companion(ClipId original, Path file, ClipFacts facts, Fingerprint fingerprint, String proof) {}
