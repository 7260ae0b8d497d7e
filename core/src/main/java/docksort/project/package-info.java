/// Opens all of the core as one thing for the window and the command line. Start at [docksort.project.Project].
@org.jspecify.annotations.NullMarked
package docksort.project;
