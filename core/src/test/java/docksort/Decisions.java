package docksort;

import java.util.Iterator;
import java.util.List;
import java.util.Random;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.RandomDistribution;

/// Chance that is written down: a row of numbers, so that what fails is found again with fewer and smaller
/// ones. After the last it says 0.
public final class Decisions extends Random {
    private static final long serialVersionUID = 1;

    @SuppressWarnings("serial") // never written
    private final List<Integer> row;

    private transient Iterator<Integer> left;

    private Decisions(List<Integer> row) {
        super(0);
        this.row = row;
        this.left = row.iterator();
    }

    /// @param most numbers in a row
    public static Arbitrary<Random> rows(int most) {
        return Arbitraries.integers()
                .withDistribution(RandomDistribution.uniform())
                .list()
                .ofMinSize(most / 8)
                .ofMaxSize(most)
                .map(Decisions::new);
    }

    @Override
    protected int next(int bits) {
        return left.hasNext() ? left.next() >>> (Integer.SIZE - bits) : 0;
    }

    @Override
    public String toString() {
        return "decisions " + row;
    }
}
