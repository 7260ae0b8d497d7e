/// Which file stands in for which original right now: states recomputed from the disk, and the order in which
/// copies serve. Never makes or deletes a file. Start at [docksort.stock.Stock].
@org.jspecify.annotations.NullMarked
package docksort.stock;
