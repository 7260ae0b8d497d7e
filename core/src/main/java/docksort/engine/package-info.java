/// The only code that knows the media engine (ffmpeg and ffprobe): finds the programs, builds argument lists,
/// runs and watches child processes, reads their answers. Never decides what to make or where. Start at
/// [docksort.engine.MediaEngine].
@org.jspecify.annotations.NullMarked
package docksort.engine;
