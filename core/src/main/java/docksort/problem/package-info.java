/// What can go wrong and how it is told to a person. Owns the one hierarchy of failures, divided by remedy.
/// Knows nothing of the rest of the program. Start at [docksort.problem.Problem].
@org.jspecify.annotations.NullMarked
package docksort.problem;
