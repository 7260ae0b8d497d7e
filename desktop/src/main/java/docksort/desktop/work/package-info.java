/// Work that goes on beside the steps of the project: what it is, how far it is, and its end. No view, no
/// toolkit.
@org.jspecify.annotations.NullMarked
package docksort.desktop.work;
