/// The only code that writes, renames or deletes files. Owns atomic publishing, the guard around originals,
/// fingerprints and the room of volumes. Knows nothing of media or of the catalogue. Start at
/// [docksort.files.CopyFolder].
@org.jspecify.annotations.NullMarked
package docksort.files;
