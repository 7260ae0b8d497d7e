package docksort.desktop.sort;

import docksort.sort.Recipe;
import docksort.sort.SortBook;
import java.util.List;

/// All recipes, with what may be done with each.
final class RecipesModel {
    private final SortBook book;

    /// @param mayChange whether it can be edited and deleted; built-in ones can only be taken as a start
    record Line(Recipe recipe, boolean mayChange) {}

    RecipesModel(SortBook book) {
        this.book = book;
    }

    List<Line> own() {
        return book.own().stream().map(recipe -> new Line(recipe, true)).toList();
    }

    List<Line> builtIn() {
        return Recipe.BUILT_IN.stream().map(recipe -> new Line(recipe, false)).toList();
    }

    BookChange deleted(Recipe recipe) {
        return new BookChange(book, book.without(recipe.id()), "Deleted the recipe " + recipe.name());
    }
}
