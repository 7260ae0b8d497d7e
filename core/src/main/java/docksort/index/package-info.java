/// Reads what MOV and MP4 files say of themselves: the sample tables whole, the descriptions of their tracks, and
/// where needed the first bytes of coded pictures. Opens files for reading only, trusts no length it finds, and
/// decodes nothing. Start at [docksort.index.MovIndex].
@org.jspecify.annotations.NullMarked
package docksort.index;
