package docksort.sort;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/// A project's own recipes and its sort rules. The built-in recipes are always there beside its own ones.
///
/// @param own recipes that somebody made, none with the id of a built-in one
/// @param rules in the order they are tried
/// @param queueNewArrivals whether copies that the rules want of new arrivals are put into the queue by
///     themselves
public record SortBook(List<Recipe> own, List<SortRule> rules, boolean queueNewArrivals) {
    public static final SortBook BUILT_IN = new SortBook(List.of(), SortRule.BUILT_IN, false);

    /// @throws IllegalArgumentException when parts do not go together, with the reason
    public SortBook {
        own = List.copyOf(own);
        rules = List.copyOf(rules);
        var ids = new HashSet<String>();
        Recipe.BUILT_IN.forEach(recipe -> ids.add(recipe.id()));
        for (Recipe recipe : own) {
            if (!ids.add(recipe.id())) {
                throw new IllegalArgumentException("there are two recipes with the id " + recipe.id());
            }
        }
        for (int i = 0; i < rules.size(); i++) {
            var made = new HashSet<String>();
            for (String id : rules.get(i).make()) {
                if (!ids.contains(id)) {
                    throw new IllegalArgumentException("rule " + (i + 1) + " names a recipe that is not there: " + id);
                }
                if (!made.add(id)) {
                    throw new IllegalArgumentException("rule " + (i + 1) + " names a recipe twice: " + id);
                }
            }
        }
    }

    /// Built-in recipes first.
    public List<Recipe> recipes() {
        return Stream.concat(Recipe.BUILT_IN.stream(), own.stream()).toList();
    }

    public Optional<Recipe> byId(String id) {
        return recipes().stream().filter(recipe -> recipe.id().equals(id)).findFirst();
    }

    /// With a recipe added, or changed where there is one with its id.
    ///
    /// @throws IllegalArgumentException when it has the id of a built-in recipe
    public SortBook with(Recipe recipe) {
        var recipes = new ArrayList<Recipe>(own);
        recipes.replaceAll(old -> old.id().equals(recipe.id()) ? recipe : old);
        if (!recipes.contains(recipe)) {
            recipes.add(recipe);
        }
        return new SortBook(recipes, rules, queueNewArrivals);
    }

    /// Without one of its own recipes. Rules that name it make the rest of what they make.
    public SortBook without(String id) {
        List<SortRule> left = rules.stream()
                .map(rule -> new SortRule(
                        rule.when(),
                        rule.make().stream().filter(made -> !made.equals(id)).toList()))
                .toList();
        return new SortBook(own.stream().filter(r -> !r.id().equals(id)).toList(), left, queueNewArrivals);
    }

    public SortBook withRules(List<SortRule> others) {
        return new SortBook(own, others, queueNewArrivals);
    }

    public SortBook queueing(boolean queue) {
        return new SortBook(own, rules, queue);
    }

    /// What becomes of a recipe that comes in while there is another one with its id.
    public enum Same {
        /// It gets an id and a name of its own.
        BESIDE("come in beside the ones here"),
        /// Copies of the one that was here become stale.
        REPLACE("take the place of the ones here"),
        LEAVE("are left out");

        private final String label;

        Same(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// Takes in recipes and rules of another book. Recipes of one id and the same content are one.
    ///
    /// @param itsRules whether its rules take the place of the rules here; they follow their recipes
    /// @param same what becomes of recipes of one id and other content
    /// @throws IllegalArgumentException when the rules do not go together with recipes that were replaced
    public SortBook takingIn(SortBook other, boolean itsRules, Same same) {
        var recipes = new ArrayList<Recipe>(own);
        List<SortRule> taken = other.rules;
        for (Recipe recipe : other.own) {
            Optional<Recipe> here =
                    recipes.stream().filter(r -> r.id().equals(recipe.id())).findFirst();
            if (here.isEmpty()) {
                recipes.add(recipe);
            } else if (same == Same.REPLACE) {
                recipes.replaceAll(old -> old.id().equals(recipe.id()) ? recipe : old);
            } else if (same == Same.BESIDE && !here.get().equals(recipe)) {
                Recipe renamed = renamed(recipe, recipes);
                recipes.add(renamed);
                taken = taken.stream()
                        .map(rule -> new SortRule(
                                rule.when(),
                                rule.make().stream()
                                        .map(id -> id.equals(recipe.id()) ? renamed.id() : id)
                                        .toList()))
                        .toList();
            }
        }
        return new SortBook(recipes, itsRules ? taken : rules, queueNewArrivals);
    }

    private static Recipe renamed(Recipe recipe, List<Recipe> others) {
        for (int n = 2; ; n++) {
            String id = recipe.id().substring(0, Math.min(55, recipe.id().length())) + "-" + n;
            if (others.stream().noneMatch(other -> other.id().equals(id))) {
                String name =
                        recipe.name().substring(0, Math.min(55, recipe.name().length()));
                return recipe.renamed(id, name + " " + n);
            }
        }
    }
}
