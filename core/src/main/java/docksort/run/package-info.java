/// The queue of a run, its workers, and the check of every copy before it counts. A copy gets its final name
/// only when it passed. Start at [docksort.run.Run].
@org.jspecify.annotations.NullMarked
package docksort.run;
