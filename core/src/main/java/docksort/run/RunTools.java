package docksort.run;

import docksort.catalogue.Catalogue;
import docksort.engine.CopyMaker;
import docksort.engine.Inspector;

/// What a run works with.
public record RunTools(
        Catalogue catalogue, CopyMaker maker, Inspector inspector, PictureCheck pictures, SoundCheck sound) {}
