/// The window around the stations: its strip, its finder of commands, its bottom line, and what it
/// remembers.
@org.jspecify.annotations.NullMarked
package docksort.desktop.shell;
