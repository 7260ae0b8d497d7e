package docksort.desktop;

import docksort.files.LogFile;
import java.util.List;
import java.util.logging.Level;
import java.util.logging.Logger;
import javafx.application.Application;

/// Starts the window. It is not the application class itself, so that JavaFX can be on the class path.
public final class Launcher {
    // Held, because a logger without a holder may be forgotten together with its level.
    private static final Logger JAVAFX = Logger.getLogger("javafx");

    private Launcher() {}

    public static void main(String[] args) {
        JAVAFX.setLevel(Level.SEVERE);
        Logger.getLogger("").setLevel(Level.WARNING);
        LogFile.open();
        if (List.of(args).contains("--unattended")) {
            System.setProperty("glass.platform", "Headless");
            System.setProperty("prism.order", "sw");
        }
        Application.launch(DockSortApp.class, args);
    }
}
