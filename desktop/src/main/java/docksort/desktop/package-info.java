/// The program with its window. Views bind to models and decide nothing; models know no scene;
/// [docksort.desktop.workshop.Workshop] is the one bridge to the core. Start at
/// [docksort.desktop.DockSortApp].
@org.jspecify.annotations.NullMarked
package docksort.desktop;
