package docksort.catalogue;

import docksort.arrival.ClipId;
import docksort.arrival.Companion;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.VideoFacts;
import docksort.sort.CopyKind;
import docksort.sort.Recipe;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;

/// A file that stands in for an original, or is meant to.
///
/// @param recipeId the recipe it is made by, empty for an adopted copy
/// @param rootId the root below which it lies
/// @param file where it lies on this workstation
/// @param note why it is in its state, or what its check found
/// @param source the original it was made from
/// @param range the stretch of the original it holds, empty for all of it
/// @param place size, time and form of the file when it became ready
/// @param service whether it serves, and when it last did
/// @param position its place in the queue
public record WorkingCopy(
        String id,
        ClipId clip,
        CopyKind kind,
        String recipeId,
        String rootId,
        Path file,
        CopyState state,
        String note,
        Fingerprint source,
        Optional<FrameRange> range,
        Place place,
        Service service,
        long position) {

    /// Ends the ids of copies that a camera wrote; a second one of a clip gets a number behind it.
    static final String CAMERAS = "-camera";

    /// What is remembered of the finished file.
    ///
    /// @param modifiedMillis its time stamp, to notice later changes cheaply
    /// @param recipeMark mark of its recipe when it was made, empty where that is not known
    /// @param fingerprint by which it is found again, empty where none was taken
    /// @param holes whether frames stand in it in place of others that its original lost
    /// @param leastAlike number of its frame that is least like the original's, empty where not all were
    ///     compared
    /// @param whole what is known of all of its bytes
    public record Place(
            long bytes,
            long modifiedMillis,
            int width,
            int height,
            String codec,
            String recipeMark,
            String fingerprint,
            boolean holes,
            Optional<Long> leastAlike,
            Whole whole) {
        /// Of a copy without holes, of which not every frame was compared.
        public Place(
                long bytes,
                long modifiedMillis,
                int width,
                int height,
                String codec,
                String recipeMark,
                String fingerprint) {
            this(
                    bytes,
                    modifiedMillis,
                    width,
                    height,
                    codec,
                    recipeMark,
                    fingerprint,
                    false,
                    Optional.empty(),
                    Whole.NONE);
        }

        public static final Place NOT_YET = new Place(0, 0, 0, 0, "", "", "");
    }

    /// What is known of all bytes of a file.
    ///
    /// @param sum their XXH64 when it was checked, or when it was first read whole, empty before that
    /// @param readMillis when it was last read whole again, 0 for never
    /// @param damaged whether it had other bytes then
    public record Whole(String sum, long readMillis, boolean damaged) {
        public static final Whole NONE = new Whole("", 0, false);

        /// Of a file that was just checked.
        public static Whole checked(String sum) {
            return new Whole(sum, 0, false);
        }
    }

    /// @param stopped whether it is kept without serving
    /// @param lastMillis when a timeline was last switched to it, 0 for never
    /// @param onTrust whether nothing but somebody's word says what it is a copy of
    public record Service(boolean stopped, long lastMillis, boolean onTrust) {
        public static final Service USUAL = new Service(false, 0);
        public static final Service ON_TRUST = new Service(false, 0, true);

        /// Of a copy whose original is proven.
        public Service(boolean stopped, long lastMillis) {
            this(stopped, lastMillis, false);
        }
    }

    /// Whether it stands in for its original when its turn comes.
    public boolean mayServe() {
        return state.serves() && !service.stopped;
    }

    /// Begins the note of a copy that a camera wrote; what proves it follows.
    private static final String BY_CAMERA = "written by the camera: ";

    /// A small file that a camera wrote beside an original.
    ///
    /// @param companion has a picture
    /// @param original fingerprint of the original
    public static WorkingCopy byCamera(String id, Companion companion, Fingerprint original, String rootId) {
        VideoFacts picture = companion.facts().video().orElseThrow();
        return new WorkingCopy(
                id,
                companion.original(),
                CopyKind.LIGHT,
                "",
                rootId,
                companion.file(),
                CopyState.READY,
                BY_CAMERA + companion.proof(),
                original,
                Optional.empty(),
                new Place(
                        companion.facts().size().bytes(),
                        companion.file().toFile().lastModified(),
                        picture.raster().width(),
                        picture.raster().height(),
                        picture.codec().label(),
                        "",
                        companion.fingerprint().toString()),
                Service.USUAL,
                0);
    }

    /// What proves that a camera wrote it; otherwise its note.
    public String proof() {
        return note.startsWith(BY_CAMERA) ? note.substring(BY_CAMERA.length()) : note;
    }

    /// An id for a copy that a camera wrote.
    ///
    /// @param others ids that other copies of the clip have
    public static String camerasId(ClipId clip, Set<String> others) {
        String first = clip.value() + CAMERAS;
        String id = first;
        for (int n = 2; others.contains(id); n++) {
            id = first + n;
        }
        return id;
    }

    /// Whether the camera wrote it beside the original.
    public boolean isCameras() {
        if (!isAdopted()) {
            return false;
        }
        int at = id.lastIndexOf(CAMERAS);
        return at > 0 && id.substring(at + CAMERAS.length()).matches("\\d*");
    }

    public boolean isAdopted() {
        return recipeId.isEmpty();
    }

    public WorkingCopy withState(CopyState next, String why) {
        return new WorkingCopy(
                id, clip, kind, recipeId, rootId, file, next, why, source, range, place, service, position);
    }

    /// The state of a file that is there as it was made.
    public CopyState finished() {
        return place.holes ? CopyState.READY_WITH_HOLES : CopyState.READY;
    }

    /// When all of it was last read, for its check or again; 0 for never.
    public long lastReadMillis() {
        Whole whole = place.whole;
        return whole.readMillis > 0 || whole.sum.isEmpty() ? whole.readMillis : place.modifiedMillis;
    }

    /// Whether a look is baked into its picture.
    public boolean bakesLook() {
        return Recipe.bakesLook(place.recipeMark());
    }

    /// Whether nothing but somebody's word says what it is a copy of.
    public boolean isOnTrust() {
        return service.onTrust;
    }

    /// Whether it is of a damaged original and nobody has accepted that yet.
    public boolean awaitsAcceptance() {
        return state == CopyState.READY_WITH_HOLES && service.stopped;
    }

    public WorkingCopy withPlace(Place next) {
        return new WorkingCopy(
                id, clip, kind, recipeId, rootId, file, state, note, source, range, next, service, position);
    }

    public WorkingCopy withFile(String root, Path next) {
        return new WorkingCopy(
                id, clip, kind, recipeId, root, next, state, note, source, range, place, service, position);
    }

    WorkingCopy withPosition(long next) {
        return new WorkingCopy(
                id, clip, kind, recipeId, rootId, file, state, note, source, range, place, service, next);
    }
}
