/// The Stock station: its model, its view, its docket.
@org.jspecify.annotations.NullMarked
package docksort.desktop.stock;
