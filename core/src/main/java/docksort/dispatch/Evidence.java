package docksort.dispatch;

import docksort.catalogue.WorkingCopy;
import docksort.dispatch.DepartureCheck.Ground;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.files.Checksum;
import docksort.media.FrameRange;
import docksort.media.Raster;
import docksort.stock.StockLine;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// What a departure check looked at, thing by thing. A timeline leaves by a check only while all of it is
/// as it was.
///
/// @param things what was looked at, in a person's words, with what was seen of it
public record Evidence(Map<String, String> things) {
    private static final int MOST_NAMED = 3;

    public Evidence {
        things = Collections.unmodifiableMap(new LinkedHashMap<>(things));
    }

    /// Looks at the timeline, at what it is checked for, and at the listing of every file it needs. No
    /// file is read.
    static Evidence of(Conform conform, Purpose purpose, Ground ground) {
        Map<String, String> things = new LinkedHashMap<>();
        var document = conform.document();
        things.put("the timeline", Checksum.XXH64.of(document.bytes()));
        things.put(
                "the timeline's file " + document.file(),
                document.version().isOutdated(document.file()) ? "another program has written it" : "as it was read");
        things.put("what it leaves for", purpose.label());
        things.put(
                "the raster of the delivery",
                ground.delivery().map(Raster::toString).orElse("not said"));
        things.put("the raster of the project's timeline", ground.timeline().toString());
        things.put("the handles", Long.toString(ground.handles()));
        for (ConformedEvent event : conform.events()) {
            things.put("event " + event.number() + " " + event.event().name(), words(event, ground));
            event.line().ifPresent(line -> line.clip().source().files().forEach(file -> look(file, things)));
            event.copy().ifPresent(copy -> look(copy.file(), things));
        }
        return new Evidence(things);
    }

    private static String words(ConformedEvent event, Ground ground) {
        var words = new ArrayList<String>(List.of(
                event.standing().label(),
                event.event().media().address(),
                event.way().name(),
                event.needed().map(FrameRange::inWords).orElse("")));
        event.line().map(StockLine::clip).ifPresent(clip -> {
            words.add(clip.id().toString());
            words.add(clip.fingerprint().toString());
            words.add(ground.forms().getOrDefault(clip.id(), ""));
        });
        event.copy().ifPresent(copy -> words.add(words(copy)));
        return String.join(" | ", words);
    }

    private static String words(WorkingCopy copy) {
        return copy.file() + " | " + copy.state() + " | " + copy.mayServe() + " | " + copy.place()
                + (copy.isOnTrust() ? " | on trust" : "");
    }

    private static void look(Path file, Map<String, String> things) {
        things.computeIfAbsent(file.toString(), _ -> {
            try {
                return Files.size(file) + " " + Files.getLastModifiedTime(file);
            } catch (IOException e) {
                return "not there";
            }
        });
    }

    /// XXH64 over all of it.
    public String digest() {
        var text = new StringBuilder();
        things.forEach((thing, seen) ->
                text.append(thing).append('\0').append(seen).append('\0').append('\0'));
        return Checksum.XXH64.of(text.toString().getBytes(StandardCharsets.UTF_8));
    }

    /// What is not as it was, in a sentence; empty when everything is.
    Optional<String> changes(Evidence before) {
        var changed = new ArrayList<String>();
        before.things.forEach((thing, seen) -> {
            if (!seen.equals(things.get(thing))) {
                changed.add(thing);
            }
        });
        things.keySet().stream()
                .filter(thing -> !before.things.containsKey(thing))
                .forEach(changed::add);
        if (changed.isEmpty()) {
            return Optional.empty();
        }
        int more = changed.size() - MOST_NAMED;
        return Optional.of(String.join(", ", changed.subList(0, Math.min(MOST_NAMED, changed.size())))
                + (more > 0 ? ", and " + more + " more" : ""));
    }
}
