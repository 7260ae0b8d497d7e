package docksort.media;

/// An image that a project keeps.
///
/// @param size in samples
public record KeptImage(KeptFile file, Raster size) {}
