package docksort.project;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyChanges.FoundClip;
import docksort.catalogue.CopyChanges.FoundCopy;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.link.MediaSearch;
import docksort.link.Relink;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.stream.Collectors;

/// Finding media that is not in its place, and pointing the project at it.
public final class Relinking {
    private final Catalogue catalogue;
    private final Inspector inspector;
    private final Roots roots;
    private final Stocktaking stocktaking;

    Relinking(Catalogue catalogue, Inspector inspector, Roots roots, Stocktaking stocktaking) {
        this.catalogue = catalogue;
        this.inspector = inspector;
        this.roots = roots;
        this.stocktaking = stocktaking;
    }

    public Relink preview(Root root, Path newPath) {
        return Relink.preview(root, newPath, catalogue.clips().all());
    }

    /// Carries out a previewed relink as one change.
    ///
    /// @throws InputRefused when no recording of the root was found at the new path
    public void carryOut(Relink relink) {
        if (!relink.lines().isEmpty() && relink.count(Presence.State.ONLINE) == 0) {
            throw new InputRefused(new Problem(
                    "Root " + relink.root().name() + " was not pointed at " + relink.newPath(),
                    "none of its " + relink.lines().size() + " recordings is there",
                    "The project and all files are as they were.",
                    "Choose the folder that now holds what " + relink.root().path() + " held."));
        }
        catalogue.roots().move(relink.root(), relink.newPath(), relink.presence());
        stocktaking.refresh();
    }

    /// Looks in a folder for everything that is not in its place.
    public List<MediaSearch.Result> search(
            Path folder, BiConsumer<Integer, Integer> progress, Cancellation cancellation) {
        return new MediaSearch(cancellation, progress, this::sameHeader)
                .search(RealFolder.of(folder), missing(), inUse());
    }

    /// Start timecode, rate and length of an original that has a timecode.
    private Optional<String> sameHeader(MediaSearch.Wanted wanted, ClipSource source) {
        Optional<ClipFacts> facts = catalogue.clips().all().stream()
                .filter(clip -> clip.id().value().equals(wanted.id()))
                .findFirst()
                .map(Clip::facts)
                .filter(known -> known.startTimecode().isPresent());
        try {
            return facts.isPresent()
                            && inspector.inspect(source, FrameRate.FPS_25, new Cancellation())
                                    instanceof Inspection.Known found
                            && found.facts().startTimecode().equals(facts.get().startTimecode())
                            && found.facts()
                                    .video()
                                    .map(VideoFacts::rate)
                                    .equals(facts.get().video().map(VideoFacts::rate))
                            && found.facts()
                                    .video()
                                    .map(VideoFacts::frames)
                                    .equals(facts.get().video().map(VideoFacts::frames))
                    ? Optional.of("same name, size, length and timecode "
                            + facts.get().startTimecode().get())
                    : Optional.empty();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        }
    }

    /// Looks in a folder for the same recordings as those that are in use, for instance on a faster volume.
    public List<MediaSearch.Result> twins(
            Path folder, List<Clip> clips, BiConsumer<Integer, Integer> progress, Cancellation cancellation) {
        return new MediaSearch(cancellation, progress)
                .search(
                        RealFolder.of(folder),
                        clips.stream().map(MediaSearch.Wanted::of).toList(),
                        inUse());
    }

    /// What follows when somebody points at the file of one clip or copy that is not in its place.
    public List<MediaSearch.Result> follow(String id, Path chosen) {
        List<MediaSearch.Wanted> missing = missing();
        MediaSearch.Wanted one = missing.stream()
                .filter(each -> each.id().equals(id))
                .findFirst()
                .orElseThrow(() -> new InputRefused(new Problem(
                        "Nothing is missing there",
                        "the file is in its place",
                        "Nothing was changed.",
                        "Choose a clip whose original is not in place.")));
        return MediaSearch.follow(one, chosen.toAbsolutePath().normalize(), missing);
    }

    /// Originals and copies that are not in their place.
    public List<MediaSearch.Wanted> missing() {
        Map<ClipId, Presence> presence = catalogue.clips().presence();
        var wanted = new ArrayList<MediaSearch.Wanted>();
        for (Clip clip : catalogue.clips().all()) {
            if (!presence.getOrDefault(clip.id(), Presence.ONLINE).isOnline()) {
                wanted.add(MediaSearch.Wanted.of(clip));
            }
        }
        for (WorkingCopy copy : catalogue.copies().all()) {
            if (copy.state() == CopyState.MISSING && !copy.place().fingerprint().isEmpty()) {
                wanted.add(new MediaSearch.Wanted(
                        copy.id(),
                        String.valueOf(copy.file().getFileName()),
                        new ClipSource.SingleFile(copy.file()),
                        Fingerprint.parse(copy.place().fingerprint())));
            }
        }
        return wanted;
    }

    private Set<Path> inUse() {
        Map<ClipId, Presence> presence = catalogue.clips().presence();
        Set<Path> files = new HashSet<>();
        catalogue.clips().all().stream()
                .filter(clip ->
                        presence.getOrDefault(clip.id(), Presence.ONLINE).isOnline())
                .forEach(clip -> files.add(clip.source().head()));
        catalogue.copies().all().stream().filter(copy -> copy.state().serves()).forEach(copy -> files.add(copy.file()));
        return files;
    }

    /// Points everything that was found at its new place, as one change.
    ///
    /// @return how many originals and copies
    public int relink(Path folder, List<MediaSearch.Result> results) {
        return relink(folder, results, false);
    }

    /// @param byHeader whether those are taken, too, whose content cannot be read
    public int relink(Path folder, List<MediaSearch.Result> results, boolean byHeader) {
        Map<String, WorkingCopy> copies =
                catalogue.copies().all().stream().collect(Collectors.toMap(WorkingCopy::id, copy -> copy));
        Set<String> clips =
                catalogue.clips().all().stream().map(clip -> clip.id().value()).collect(Collectors.toSet());
        var foundClips = new ArrayList<FoundClip>();
        var foundCopies = new ArrayList<FoundCopy>();
        for (MediaSearch.Result result : results) {
            Optional<ClipSource> source = switch (result) {
                case MediaSearch.Result.Found found -> Optional.of(found.source());
                case MediaSearch.Result.ByHeader found when byHeader -> Optional.of(found.source());
                default -> Optional.empty();
            };
            if (source.isEmpty()) {
                continue;
            }
            Path file = source.get().head();
            Root root = roots.any(file.startsWith(folder) ? folder : Objects.requireNonNull(file.getParent()));
            String id = result.wanted().id();
            WorkingCopy copy = copies.get(id);
            if (copy != null) {
                foundCopies.add(new FoundCopy(copy, file, root, file.toFile().lastModified()));
            } else if (clips.contains(id)) {
                foundClips.add(new FoundClip(new ClipId(id), source.get(), root, Presence.ONLINE));
            }
        }
        int all = foundClips.size() + foundCopies.size();
        if (all > 0) {
            catalogue
                    .copyChanges()
                    .found(
                            foundClips,
                            foundCopies,
                            "Found " + foundClips.size() + " originals and " + foundCopies.size() + " copies in "
                                    + folder);
            stocktaking.refresh();
        }
        return all;
    }
}
