/// Reads and writes timelines as open interchange files: OpenTimelineIO JSON, CMX 3600 edit lists, tables of
/// links. Knows what they say of media and nothing of a project's clips. A document is kept as it was read;
/// only what leads to media is ever written to. Start at [docksort.timeline.TimelineDocument].
@org.jspecify.annotations.NullMarked
package docksort.timeline;
