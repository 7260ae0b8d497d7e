/// A folder tree becomes clips with facts: which files are one clip, which are the camera's own small copies,
/// which cannot be read and why. Never judges a clip and never writes anything. Start at
/// [docksort.arrival.ArrivalScan].
@org.jspecify.annotations.NullMarked
package docksort.arrival;
