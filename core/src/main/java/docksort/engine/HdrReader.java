package docksort.engine;

import com.fasterxml.jackson.databind.JsonNode;
import docksort.media.Hdr;
import docksort.media.Rational;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Reads the mastering display (SMPTE ST 2086) and the content light level (CTA-861.3) from a stream's or a
/// picture's side data.
final class HdrReader {
    private HdrReader() {}

    static Hdr read(JsonNode stream, Optional<FirstPicture> picture) {
        String mastering = "";
        String light = "";
        var places = new ArrayList<JsonNode>(List.of(stream.path("side_data_list")));
        picture.ifPresent(p -> places.add(p.sideData()));
        for (JsonNode place : places) {
            for (JsonNode side : place) {
                Optional<Rational> most = ProbeStream.rational(side.path("max_luminance"));
                if (mastering.isEmpty() && most.isPresent()) {
                    mastering = most.get().rounded() + " cd/m²";
                }
                if (light.isEmpty() && side.path("max_content").asInt(0) > 0) {
                    light = "MaxCLL " + side.path("max_content").asInt() + ", MaxFALL "
                            + side.path("max_average").asInt();
                }
            }
        }
        return new Hdr(mastering, light);
    }
}
