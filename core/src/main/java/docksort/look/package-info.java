/// Looks that are baked into copies: lookup tables and colour decisions, read from open formats and checked.
@NullMarked
package docksort.look;

import org.jspecify.annotations.NullMarked;
