/// The project's memory: settings, roots, arrivals, clips, choices, copies, and a log of every change with what
/// takes it back. The only code that knows SQL. Never touches media. Start at [docksort.catalogue.Catalogue].
@org.jspecify.annotations.NullMarked
package docksort.catalogue;
