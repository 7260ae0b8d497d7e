/// Finding media again: a root gets another path, and each recording below it is recognised or refused. Only reads.
/// Start at [docksort.link.Relink].
@org.jspecify.annotations.NullMarked
package docksort.link;
