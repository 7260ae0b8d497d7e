/// The Sort station: its model, its view, its docket.
@org.jspecify.annotations.NullMarked
package docksort.desktop.sort;
