/// How hard a clip is to play and scrub, with reasons. Counts from the real frame structure; never opens a file.
/// Start at [docksort.strain.StrainJudge].
@org.jspecify.annotations.NullMarked
package docksort.strain;
