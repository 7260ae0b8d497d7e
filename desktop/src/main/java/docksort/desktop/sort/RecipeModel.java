package docksort.desktop.sort;

import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.ColourDecision;
import docksort.media.FrameLines;
import docksort.media.FrameRate;
import docksort.media.KeptFile;
import docksort.media.KeptImage;
import docksort.media.Look;
import docksort.media.SoundForm;
import docksort.media.SoundMix;
import docksort.media.Watermark;
import docksort.media.Wrapper;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Placing;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/// One recipe while it is edited: what can be chosen, what it becomes, what does not go together.
final class RecipeModel {
    private static final int LONGEST_NAME = 60;
    private static final int LONGEST_ID = 50;
    private static final List<Scaling> SCALINGS = List.of(
            new Scaling.Full(),
            new Scaling.PerSide(2),
            new Scaling.PerSide(4),
            new Scaling.PerSide(8),
            new Scaling.PerSide(16),
            new Scaling.FitLines(List.of(1080, 720)),
            new Scaling.FitLines(List.of(720)),
            new Scaling.FitLines(List.of(540)),
            new Scaling.FitTimeline());

    private final SortBook book;
    private final Recipe from;
    private final boolean isNew;

    /// All that the page asks for, as it stands in its fields.
    ///
    /// @param conform rate that a variable rate becomes; blank for as found
    /// @param muted numbers of channels, from 1
    /// @param mix as [SoundMix#parse] reads it
    /// @param burnIns what is drawn into the picture, and where
    /// @param words of the text that is drawn
    /// @param frame shape of the frame lines as [FrameLines#parse] reads it; blank for none
    record Draft(
            String name,
            CopyKind kind,
            Encoding encoding,
            Wrapper wrapper,
            Scaling scaling,
            boolean alpha,
            boolean square,
            boolean deinterlace,
            Look look,
            boolean hardware,
            String conform,
            int bits,
            int sampleRate,
            String muted,
            String mix,
            Map<BurnIn.What, BurnIn.At> burnIns,
            String words,
            String frame,
            FrameLines.Outside outside,
            Optional<Watermark> watermark,
            String naming,
            Placing placing) {
        Draft {
            burnIns = Map.copyOf(burnIns);
        }
    }

    /// @param isNew whether a new recipe is made of `from`
    RecipeModel(SortBook book, Recipe from, boolean isNew) {
        this.book = book;
        this.from = from;
        this.isNew = isNew;
    }

    String title() {
        return isNew ? "New recipe" : from.name();
    }

    Draft start() {
        String name = isNew ? from.name() + ", mine" : from.name();
        var drawn = new EnumMap<BurnIn.What, BurnIn.At>(BurnIn.What.class);
        from.burnIns().words().forEach(burnIn -> drawn.put(burnIn.what(), burnIn.at()));
        return new Draft(
                name.substring(0, Math.min(LONGEST_NAME, name.length())),
                from.kind(),
                from.encoding(),
                from.wrapper(),
                from.scaling(),
                from.keepsAlpha(),
                from.squarePixels(),
                from.deinterlaces(),
                from.look(),
                from.hardware(),
                from.conformTo().map(FrameRate::toString).orElse(""),
                from.sound().bits(),
                from.sound().samplesPerSecond(),
                from.sound().muted().stream().map(String::valueOf).collect(Collectors.joining(", ")),
                from.sound().mix().toString(),
                drawn,
                from.burnIns().words().stream()
                        .filter(burnIn -> burnIn.what() == BurnIn.What.TEXT)
                        .map(BurnIn::text)
                        .findFirst()
                        .orElse(""),
                from.burnIns().frame().map(FrameLines::shape).orElse(""),
                from.burnIns().frame().map(FrameLines::outside).orElse(FrameLines.Outside.LINE),
                from.burnIns().watermark(),
                from.naming(),
                from.placing());
    }

    List<Scaling> scalings() {
        return with(SCALINGS, from.scaling());
    }

    List<Integer> sampleRates() {
        return with(List.of(0, 44_100, 48_000, 96_000), from.sound().samplesPerSecond());
    }

    private static <T> List<T> with(List<T> usual, T own) {
        var all = new ArrayList<>(usual);
        if (!all.contains(own)) {
            all.add(own);
        }
        return List.copyOf(all);
    }

    /// @throws IllegalArgumentException with what does not go together
    Recipe recipe(Draft draft) {
        var drawn = new ArrayList<BurnIn>();
        for (BurnIn.What what : BurnIn.What.values()) {
            Optional.ofNullable(draft.burnIns.get(what))
                    .ifPresent(at -> drawn.add(new BurnIn(what, at, what == BurnIn.What.TEXT ? draft.words : "")));
        }
        return new Recipe(
                isNew ? freshId(draft.name) : from.id(),
                draft.name.strip(),
                draft.kind,
                draft.encoding,
                draft.wrapper,
                draft.scaling,
                draft.alpha,
                draft.square,
                draft.conform.isBlank() ? Optional.empty() : Optional.of(FrameRate.parse(draft.conform.strip())),
                draft.deinterlace,
                draft.look,
                new SoundForm(draft.bits, draft.sampleRate, channels(draft.muted), SoundMix.parse(draft.mix)),
                new BurnIns(drawn, frame(draft), draft.watermark),
                draft.naming,
                draft.placing,
                draft.hardware);
    }

    private static Optional<FrameLines> frame(Draft draft) {
        return draft.frame.isBlank() ? Optional.empty() : Optional.of(FrameLines.parse(draft.frame, draft.outside));
    }

    /// The look of what is chosen.
    ///
    /// @throws IllegalArgumentException with what does not go together
    static Look look(boolean sdr, Optional<ColourDecision> decision, Optional<KeptFile> table) {
        return new Look(sdr, decision, table);
    }

    /// Tables to choose from: none first, and the recipe's own also where the project has not got it.
    List<Optional<KeptFile>> tables(List<KeptFile> known) {
        var tables = new ArrayList<Optional<KeptFile>>();
        tables.add(Optional.empty());
        known.forEach(table -> tables.add(Optional.of(table)));
        Optional<KeptFile> own = from.look().table();
        if (!tables.contains(own)) {
            tables.add(own);
        }
        return tables;
    }

    /// Images to choose from: none first, and the recipe's own also where the project has not got it.
    List<Optional<KeptImage>> images(List<KeptImage> known) {
        var images = new ArrayList<Optional<KeptImage>>();
        images.add(Optional.empty());
        known.forEach(image -> images.add(Optional.of(image)));
        Optional<KeptImage> own = from.burnIns().watermark().map(Watermark::image);
        if (!images.contains(own)) {
            images.add(own);
        }
        return images;
    }

    /// Parts of a hundred to choose from.
    ///
    /// @param own what the recipe has, which may be another
    static List<Integer> parts(Optional<Integer> own) {
        return own.map(part -> with(PARTS, part)).orElse(PARTS);
    }

    private static final List<Integer> PARTS = List.of(5, 10, 20, 30, 50, 75, 100);

    static String decision(Optional<ColourDecision> values) {
        return values.map(ColourDecision::label).orElse("none");
    }

    /// Why a recipe cannot be saved as it stands.
    Optional<String> fault(Supplier<Draft> draft) {
        try {
            recipe(draft.get());
            return Optional.empty();
        } catch (IllegalArgumentException | ArithmeticException e) {
            return Optional.of("Cannot be saved: " + e.getMessage());
        }
    }

    private static List<Integer> channels(String text) {
        var numbers = new ArrayList<Integer>();
        for (String number : text.strip().split("[,\\s]+", -1)) {
            if (!number.isEmpty()) {
                numbers.add(number(number));
            }
        }
        return numbers;
    }

    private static int number(String text) {
        try {
            return Integer.parseInt(text);
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException("\"" + text + "\" is no number of a channel", e);
        }
    }

    /// Of the name: small letters, digits and dashes; a number where it is taken.
    private String freshId(String name) {
        String base =
                name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^-|-$", "");
        String start = base.isEmpty() ? "recipe" : base.substring(0, Math.min(LONGEST_ID, base.length()));
        String id = start;
        for (int n = 2; book.byId(id).isPresent(); n++) {
            id = start + "-" + n;
        }
        return id;
    }

    BookChange saved(Draft draft) {
        Recipe recipe = recipe(draft);
        return new BookChange(
                book, book.with(recipe), (isNew ? "Made the recipe " : "Changed the recipe ") + recipe.name());
    }

    /// What a clip would come to, with what decided it.
    static List<TaskLine> outcome(List<PlannedCopy> copies) {
        var lines = new ArrayList<TaskLine>();
        for (PlannedCopy copy : copies) {
            switch (copy.resolution()) {
                case Recipe.Resolution.Possible(var form, var chosen) -> {
                    String bytes = (copy.bytes().isExact() ? "exactly " : "about ")
                            + copy.bytes().likely();
                    lines.add(line(Tone.GOOD, form.label() + ", " + bytes));
                    chosen.forEach(why -> lines.add(line(Tone.PLAIN, why)));
                }
                case Recipe.Resolution.Impossible(var why) -> lines.add(line(Tone.LOOK, "cannot be made: " + why));
            }
        }
        return lines;
    }

    private static TaskLine line(Tone tone, String words) {
        return new TaskLine(tone, "", "", "", words);
    }
}
