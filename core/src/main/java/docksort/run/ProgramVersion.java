package docksort.run;

/// The version of the program, as copies and reports state it.
public final class ProgramVersion {
    public static final String TEXT = "0.1.0";

    private ProgramVersion() {}
}
