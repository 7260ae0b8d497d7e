/// Measurements: small ones by JMH, and side-by-side runs against the bare media engine. Start at
/// [docksort.bench.SideBySide].
@org.jspecify.annotations.NullMarked
package docksort.bench;
