package docksort.run;

import docksort.catalogue.Catalogue;
import docksort.engine.CopyMaker;
import docksort.engine.Extents;
import docksort.engine.Inspector;
import docksort.engine.PacketHashes;

/// What a run works with.
public record RunTools(
        Catalogue catalogue,
        CopyMaker maker,
        Inspector inspector,
        Extents extents,
        PictureCheck pictures,
        SoundCheck sound,
        PacketHashes packets) {}
