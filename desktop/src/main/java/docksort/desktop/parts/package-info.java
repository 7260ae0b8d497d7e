/// What stations and pages are put together from: marks, rows, fields, dockets, task pages.
@org.jspecify.annotations.NullMarked
package docksort.desktop.parts;
