package docksort.catalogue;

import docksort.arrival.ClipId;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.sort.CopyKind;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jdbi.v3.core.mapper.RowMapper;
import org.jdbi.v3.core.statement.StatementContext;

/// Makes copies of rows. Asking the driver for a column costs more than the column: what only this program
/// writes, without spaces, comes as one text of words, so that two hundred thousand copies are there in a
/// second.
final class CopyRows implements RowMapper<WorkingCopy> {
    static final String QUERY = """
        SELECT copy.id, clip_id, recipe_id, copy.path, coalesce(copy_presence.note, copy.note), codec,
            root_id || ' ' || kind || ' ' || coalesce(copy_presence.state, copy.state) || ' ' || source_fingerprint || ' ' || range_first || ' ' ||
            range_count || ' ' || bytes || ' ' || modified_millis || ' ' || width || ' ' || height || ' ' ||
            recipe_mark || ' ' || fingerprint || ' ' || CASE WHEN holes THEN 1 ELSE 0 END || ' ' || least_alike || ' ' ||
            whole_sum || ' ' || read_millis || ' ' || CASE WHEN damaged THEN 1 ELSE 0 END || ' ' ||
            CASE WHEN stopped THEN 1 ELSE 0 END || ' ' || served_millis || ' ' ||
            CASE WHEN on_trust THEN 1 ELSE 0 END || ' ' || position
        FROM copy LEFT JOIN copy_presence ON copy_id = copy.id AND workstation = :here\
        """;

    private final Map<String, Path> roots;
    private final Map<String, String> texts = new HashMap<>();

    /// @param roots where this workstation sees each root, by its id
    CopyRows(Map<String, Path> roots) {
        this.roots = roots;
    }

    @Override
    public WorkingCopy map(ResultSet row, StatementContext context) throws SQLException {
        var words = new Words(row.getString(7));
        String root = same(words.next());
        CopyKind kind = CopyKind.valueOf(words.next());
        CopyState state = CopyState.valueOf(words.next());
        Fingerprint source = Fingerprint.parse(words.next());
        long first = words.nextLong();
        long frames = words.nextLong();
        var place = new WorkingCopy.Place(
                words.nextLong(),
                words.nextLong(),
                (int) words.nextLong(),
                (int) words.nextLong(),
                same(row.getString(6)),
                same(words.next()),
                words.next(),
                words.nextLong() != 0,
                leastAlike(words.nextLong()),
                new WorkingCopy.Whole(words.next(), words.nextLong(), words.nextLong() != 0));
        return new WorkingCopy(
                row.getString(1),
                new ClipId(row.getString(2)),
                kind,
                same(row.getString(3)),
                root,
                CataloguePaths.below(Objects.requireNonNull(roots.get(root)), row.getString(4)),
                state,
                same(row.getString(5)),
                source,
                frames == 0 ? Optional.empty() : Optional.of(new FrameRange(first, frames)),
                place,
                new WorkingCopy.Service(words.nextLong() != 0, words.nextLong(), words.nextLong() != 0),
                words.nextLong());
    }

    private static Optional<Long> leastAlike(long frame) {
        return frame < 0 ? Optional.empty() : Optional.of(frame);
    }

    /// One text where many rows say the same.
    private String same(String text) {
        return texts.computeIfAbsent(text, kept -> kept);
    }

    private static final class Words {
        private final String text;
        private int at;

        Words(String text) {
            this.text = text;
        }

        String next() {
            int end = text.indexOf(' ', at);
            String word = text.substring(at, end < 0 ? text.length() : end);
            at += word.length() + 1;
            return word;
        }

        long nextLong() {
            int space = text.indexOf(' ', at);
            int end = space < 0 ? text.length() : space;
            long number = Long.parseLong(text, at, end, 10);
            at = end + 1;
            return number;
        }
    }
}
