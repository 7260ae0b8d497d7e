package docksort.media;

/// That a picture is of high dynamic range, and for which display and light it was made.
///
/// @param mastering the display it was graded on, empty where not stated: "1000 cd/m²"
/// @param light brightest pixel and brightest frame, empty where not stated: "MaxCLL 1000, MaxFALL 400"
public record Hdr(String mastering, String light) {
    public static final Hdr NONE = new Hdr("", "");

    /// "PQ", "HLG" or empty, by the transfer characteristic (Rec. ITU-R BT.2100).
    public static String kind(Colour colour) {
        return switch (colour.transfer()) {
            case "smpte2084" -> "PQ";
            case "arib-std-b67" -> "HLG";
            default -> "";
        };
    }
}
