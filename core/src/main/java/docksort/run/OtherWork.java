package docksort.run;

import java.util.Optional;

/// What else a machine is busy with. A gentle run holds still while somebody needs it.
@FunctionalInterface
public interface OtherWork {
    OtherWork NONE = Optional::empty;

    /// Why a gentle run should hold still now, in words; empty when it may work.
    Optional<String> inTheWay();
}
