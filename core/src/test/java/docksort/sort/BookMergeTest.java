package docksort.sort;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/// Two people, one book of rules: nothing of either is lost without a word.
class BookMergeTest {
    private static final SortBook BASE = new SortBook(List.of(), rules("2", "4", "8"), false);

    private static List<SortRule> rules(String... costs) {
        return Stream.of(costs).map(BookMergeTest::rule).toList();
    }

    private static SortRule rule(String cost) {
        return new SortRule(
                List.of(new Condition(Fact.SCRUB_COST, Fact.Is.AT_LEAST, cost)),
                List.of(Recipe.LIGHT_PRORES_HALF.id()));
    }

    private static SortBook book(String... costs) {
        return BASE.withRules(rules(costs));
    }

    private static List<SortRule> together(SortBook mine, SortBook theirs) {
        BookMerge merge = BookMerge.of(BASE, mine, theirs);
        assertThat(merge.both()).isEmpty();
        return merge.together().orElseThrow().rules();
    }

    @Test
    void changesOfDifferentRulesGoTogether() {
        assertThat(together(book("3", "4", "8"), book("2", "4", "9"))).isEqualTo(rules("3", "4", "9"));
        assertThat(together(book("2", "4", "8", "16"), book("2", "5", "8", "32")))
                .isEqualTo(rules("2", "5", "8", "32", "16"));
        assertThat(together(book("2", "4", "8", "16"), book("2", "4", "8", "16")))
                .isEqualTo(rules("2", "4", "8", "16"));
        assertThat(together(BASE, book("8", "2"))).isEqualTo(rules("8", "2"));
        assertThat(together(book("8", "2"), BASE)).isEqualTo(rules("8", "2"));
        assertThat(BookMerge.of(BASE, BASE.queueing(true), book("3", "4", "8")).together())
                .contains(book("3", "4", "8").queueing(true));
    }

    @Test
    void whatBothChangedIsAskedForWithTheSecondOnesWishAtHand() {
        BookMerge same = BookMerge.of(BASE, book("3", "4", "8"), book("5", "4", "9"));
        assertThat(same.both()).singleElement().satisfies(both -> {
            assertThat(both.what()).isEqualTo("Rule 1");
            assertThat(both.theirs()).contains("5");
            assertThat(both.mine()).contains("3");
        });
        assertThat(same.together()).contains(book("3", "4", "9"));
        // One deleted or moved rules, the other changed one: their places do not tell which is which.
        for (SortBook theirs : List.of(book("2", "8"), book("4", "2", "8"))) {
            BookMerge list = BookMerge.of(BASE, book("3", "4", "8"), theirs);
            assertThat(list.both()).extracting(BookMerge.Both::what).containsExactly("The list of rules");
            assertThat(list.together()).contains(book("3", "4", "8"));
        }
    }

    @Test
    void recipesAreTakenEachByItself() {
        Recipe own = recipe("own", "Own");
        SortBook base = BASE.with(own);
        SortBook mine = base.with(recipe("own", "Mine"));
        SortBook theirs = base.with(recipe("other", "Other"));
        assertThat(BookMerge.of(base, mine, theirs).both()).isEmpty();
        assertThat(BookMerge.of(base, mine, theirs).together().orElseThrow().own())
                .extracting(Recipe::name)
                .containsExactlyInAnyOrder("Mine", "Other");
        BookMerge gone = BookMerge.of(base, mine, base.without("own"));
        assertThat(gone.both()).singleElement().satisfies(both -> {
            assertThat(both.theirs()).isEqualTo("deleted");
            assertThat(both.mine()).contains("Mine");
        });
        // A rule of one names what the other deleted.
        SortBook named = base.withRules(List.of(new SortRule(List.of(), List.of("own"))));
        BookMerge apart = BookMerge.of(base, named, base.without("own"));
        assertThat(apart.both()).isNotEmpty();
        assertThat(apart.together()).isEmpty();
    }

    private static Recipe recipe(String id, String name) {
        return Recipe.LIGHT_PRORES_HALF.renamed(id, name);
    }

    /// Whatever two people make of a list: the outcome has every rule that only one of them touched as that one left
    /// it, or it is asked.
    @Property(tries = 400)
    void nothingThatOnlyOneChangedIsLost(
            @ForAll @Size(max = 5) List<@IntRange(min = 1, max = 4) Integer> was,
            @ForAll @Size(max = 5) List<@IntRange(min = 1, max = 4) Integer> first,
            @ForAll @Size(max = 5) List<@IntRange(min = 1, max = 4) Integer> second) {
        SortBook base = numbered(was);
        SortBook theirs = numbered(first);
        SortBook mine = numbered(second);
        BookMerge merge = BookMerge.of(base, mine, theirs);
        if (merge.both().isEmpty()) {
            List<SortRule> together = merge.together().orElseThrow().rules();
            var added = new ArrayList<SortRule>(theirs.rules());
            added.addAll(mine.rules());
            added.removeAll(base.rules());
            assertThat(together).containsAll(added);
            if (mine.rules().equals(base.rules())) {
                assertThat(together).isEqualTo(theirs.rules());
            }
        } else {
            assertThat(mine).isNotEqualTo(base).isNotEqualTo(theirs);
            assertThat(theirs).isNotEqualTo(base);
        }
    }

    private static SortBook numbered(List<Integer> costs) {
        return BASE.withRules(
                costs.stream().map(cost -> rule(Integer.toString(cost))).toList());
    }
}
