/// What stands between the window and a project: each kind of wish has its desk, and the project answers
/// with views. No node of a scene is known here. Start at [docksort.desktop.workshop.Workshop].
@org.jspecify.annotations.NullMarked
package docksort.desktop.workshop;
