package docksort.link;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.sort.CopyKind;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.From;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.Size;

/// Names of copies: learned from a set, told apart, given by a pattern.
class NamesTest {
    /// As cameras and people name clips: letters, digits, some signs.
    @Provide
    Arbitrary<String> names() {
        return Arbitraries.strings()
                .withCharRange('a', 'f')
                .withCharRange('A', 'F')
                .numeric()
                .withChars("_-. ")
                .ofMinLength(3)
                .ofMaxLength(12)
                .filter(name -> name.strip().equals(name) && !name.startsWith(".") && !name.endsWith("."));
    }

    /// What a program adds to a name; no letters or digits that a name has, so that a set tells it apart.
    @Provide
    Arbitrary<String> additions() {
        return Arbitraries.of("", "_P", "#", "~proxy", "(lt)", "+HQ+");
    }

    @Property
    void aPatternTellsTheOriginalOfEveryNameItMakes(
            @ForAll("names") String name, @ForAll("additions") String before, @ForAll("additions") String after) {
        var pattern = new NamePattern(before, after);
        assertThat(pattern.original(before + name + after)).contains(name.toLowerCase(Locale.ROOT));
        assertThat(NamePattern.parse(pattern.label())).isEqualTo(pattern);
    }

    @Property(tries = 200)
    void whatOnePatternMadeIsLearnedFirstAndExplainsAll(
            @ForAll @Size(min = 5, max = 30) Set<@From("names") String> originals,
            @ForAll("additions") String before,
            @ForAll("additions") String after) {
        List<String> copies =
                originals.stream().map(name -> before + name + after).toList();
        List<NamePattern> learned = NamePattern.learn(originals, copies);
        assertThat(learned).isNotEmpty();
        Set<String> names = new HashSet<>();
        originals.forEach(name -> names.add(name.toLowerCase(Locale.ROOT)));
        for (String copy : copies) {
            assertThat(learned)
                    .anyMatch(pattern ->
                            pattern.original(copy).filter(names::contains).isPresent());
        }
    }

    private static WorkingCopy copy(Clip clip, int number, Path file) {
        return new WorkingCopy(
                "copy " + number,
                clip.id(),
                CopyKind.LIGHT,
                "recipe",
                "copies",
                file,
                CopyState.READY,
                "",
                clip.fingerprint(),
                Optional.empty(),
                new WorkingCopy.Place(1, 1, 960, 540, "", "", ""),
                WorkingCopy.Service.USUAL,
                0);
    }

    /// Against what the rule says on paper: a name that two would get is given to neither, and the same
    /// pattern twice changes nothing the second time.
    @Property(tries = 200)
    void aNameIsGivenToOneOnlyAndTwiceIsOnce(@ForAll @Size(min = 1, max = 8) List<@From("names") String> names) {
        var before = new ArrayList<CopyNames.Named>();
        for (int i = 0; i < names.size(); i++) {
            Clip clip = Clips.named(names.get(i)).clip();
            Clip own =
                    new Clip(new ClipId("clip " + i), clip.arrival(), clip.source(), clip.facts(), clip.fingerprint());
            before.add(new CopyNames.Named(copy(own, i, Path.of("/nowhere/was" + i + ".mov")), own, "card"));
        }
        CopyNames first = CopyNames.preview("{clip}_{kind}", before, List.of());
        Map<String, Integer> wanted = new HashMap<>();
        first.lines().forEach(line -> wanted.merge(line.to().toString().toLowerCase(Locale.ROOT), 1, Integer::sum));
        for (CopyNames.Line line : first.lines()) {
            boolean shared = wanted.getOrDefault(line.to().toString().toLowerCase(Locale.ROOT), 0) > 1;
            if (shared) {
                assertThat(line.fault()).isPresent();
            }
        }
        List<CopyNames.Named> after = new ArrayList<>();
        for (int i = 0; i < before.size(); i++) {
            CopyNames.Named named = before.get(i);
            after.add(new CopyNames.Named(
                    copy(named.clip(), i, first.lines().get(i).to()), named.clip(), named.arrival()));
        }
        assertThat(CopyNames.preview("{clip}_{kind}", after, List.of()).changes())
                .isEmpty();
    }
}
