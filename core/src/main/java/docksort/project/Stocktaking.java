package docksort.project;

import docksort.arrival.Clip;
import docksort.catalogue.Catalogue;
import docksort.files.Documents;
import docksort.stock.Coverage;
import docksort.stock.ServingOrder;
import docksort.stock.Standards;
import docksort.stock.Stock;
import docksort.stock.StockLine;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;

/// What there is of every clip, as the catalogue knows it and as the disk has it.
public final class Stocktaking {
    private final Catalogue catalogue;
    private final Stock stock;
    private final ProjectBook book;
    private final Settings settings;
    private final InstantSource clock;

    Stocktaking(Catalogue catalogue, Stock stock, ProjectBook book, Settings settings, InstantSource clock) {
        this.catalogue = catalogue;
        this.stock = stock;
        this.book = book;
        this.settings = settings;
        this.clock = clock;
    }

    public List<StockLine> lines() {
        return lines(settings.servingOrder());
    }

    public List<StockLine> lines(ServingOrder order) {
        return lines(catalogue.clips().all(), order);
    }

    /// @param clips the project's clips, where the caller has them at hand
    public List<StockLine> lines(List<Clip> clips, ServingOrder order) {
        return stock.lines(clips, order);
    }

    /// Looks at the disk again.
    ///
    /// @return how many states changed
    public int refresh() {
        if (!catalogue.mayChange()) {
            return 0; // what is not found here is kept, which who only sees may not do
        }
        return stock.refresh(
                catalogue.clips().all(),
                Standards.of(book.now().recipes(), catalogue.timelines().used()));
    }

    /// Every clip with its copies after such a look.
    List<StockLine> fresh() {
        refresh();
        return lines();
    }

    /// Writes which clips have which copies, as CSV or, where the file's name ends so, as HTML.
    public void writeCoverage(List<StockLine> lines, Path file) {
        Coverage coverage = Coverage.of(lines);
        boolean html = file.toString().toLowerCase(Locale.ROOT).endsWith(".html");
        String name = catalogue.settings().get("name").orElse("");
        String text = html ? coverage.html(name, clock.instant()) : coverage.csv();
        Documents.replace(file, text.getBytes(StandardCharsets.UTF_8));
    }
}
