/// Timelines come and go as open interchange files; their media references are switched to copies and back, and
/// nothing else in them is touched. Start at [docksort.dispatch.Timeline].
@org.jspecify.annotations.NullMarked
package docksort.dispatch;
