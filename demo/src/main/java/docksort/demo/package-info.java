/// Footage of *Night Optics*, a short documentary about an amateur observatory whose main mirror is taken out,
/// cleaned and put back: painted, encoded as cameras and recorders would, and laid out as it would arrive.
/// Invented throughout. Start at [docksort.demo.DemoFootage].
@org.jspecify.annotations.NullMarked
package docksort.demo;
