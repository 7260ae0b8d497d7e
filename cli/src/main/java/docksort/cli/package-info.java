/// The steps of the job without a window. Text for people by default, JSON with `--json`. Start at
/// [docksort.cli.Main].
@org.jspecify.annotations.NullMarked
package docksort.cli;
