/// The pair view: a recording and one of its copies at the same frame.
@org.jspecify.annotations.NullMarked
package docksort.desktop.pair;
