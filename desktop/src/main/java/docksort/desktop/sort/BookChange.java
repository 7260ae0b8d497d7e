package docksort.desktop.sort;

import docksort.sort.SortBook;

/// A book of rules and recipes as a person wants it.
///
/// @param base as it was looked at
/// @param words what was done, as undo and the list of what happened name it
record BookChange(SortBook base, SortBook book, String words) {}
