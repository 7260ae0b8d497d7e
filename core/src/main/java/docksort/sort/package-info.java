/// What will be made, why, how big, and whether it fits, before anything runs: recipes, sort rules, the load
/// sheet. Never makes a copy. Start at [docksort.sort.LoadSheet].
@org.jspecify.annotations.NullMarked
package docksort.sort;
