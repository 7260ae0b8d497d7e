/// The right media at the right moment: finds the recording of every event of a timeline, switches events to
/// copies and back, writes addresses for other workstations, and proves before a timeline leaves that it leads
/// to its originals. Knows nothing of how timelines are written. Start at [docksort.dispatch.Conform], then
/// [docksort.dispatch.Switching] and [docksort.dispatch.DepartureCheck].
@org.jspecify.annotations.NullMarked
package docksort.dispatch;
