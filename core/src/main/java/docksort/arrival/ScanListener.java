package docksort.arrival;

/// Hears of a scan while it goes on, from its worker threads.
public interface ScanListener {
    /// @param done files looked into
    /// @param all files to look into
    void progress(int done, int all);

    /// A clip is known with all its facts.
    void clip(Clip clip);

    void unreadable(Unreadable file);

    static ScanListener none() {
        return new ScanListener() {
            @Override
            public void progress(int done, int all) {}

            @Override
            public void clip(Clip clip) {}

            @Override
            public void unreadable(Unreadable file) {}
        };
    }
}
