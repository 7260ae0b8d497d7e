package docksort.desktop.shell;

import docksort.desktop.parts.ColumnForm;
import docksort.desktop.parts.Station;
import java.util.prefs.BackingStoreException;
import java.util.prefs.Preferences;
import javafx.geometry.Rectangle2D;
import javafx.scene.control.TableView;
import javafx.stage.Screen;
import javafx.stage.Stage;

/// What the window looked like when it was closed: its place, theme and size of text, and the order,
/// widths and visibility of columns. Kept for a person on a machine, beside all projects.
public final class WindowMemory {
    private static final String COLUMNS = "columns.";

    private final Preferences kept;

    /// @param kept where it is kept
    public WindowMemory(Preferences kept) {
        this.kept = kept;
    }

    public static WindowMemory ofThisPerson() {
        return new WindowMemory(Preferences.userRoot().node("dock-sort/window"));
    }

    /// Brings a window into the form it was kept in. A place that no screen shows any more is left out.
    public void restore(Window window, Stage stage) {
        window.setScale(kept.getInt("scale", 0));
        window.setNight(kept.getBoolean("night", false));
        for (Station station : window.stations()) {
            TableView<?> table = station.face().list();
            ColumnForm.apply(table, kept.get(COLUMNS + table.getId(), ""));
        }
        double width = kept.getDouble("width", 0);
        double height = kept.getDouble("height", 0);
        double x = kept.getDouble("x", 0);
        double y = kept.getDouble("y", 0);
        if (width >= stage.getMinWidth() && height >= stage.getMinHeight() && isOnAScreen(x, y, width)) {
            stage.setX(x);
            stage.setY(y);
            stage.setWidth(width);
            stage.setHeight(height);
        }
        stage.setMaximized(kept.getBoolean("maximized", false));
    }

    private static boolean isOnAScreen(double x, double y, double width) {
        return Screen.getScreens().stream()
                .map(Screen::getVisualBounds)
                .anyMatch((Rectangle2D bounds) -> bounds.intersects(x + width / 4, y, width / 2, 40));
    }

    /// Keeps how a window looks now.
    public void keep(Window window, Stage stage) {
        kept.putInt("scale", window.scaleStep());
        kept.putBoolean("night", window.isNight());
        kept.putBoolean("maximized", stage.isMaximized());
        if (!stage.isMaximized()) {
            kept.putDouble("x", stage.getX());
            kept.putDouble("y", stage.getY());
            kept.putDouble("width", stage.getWidth());
            kept.putDouble("height", stage.getHeight());
        }
        for (Station station : window.stations()) {
            TableView<?> table = station.face().list();
            kept.put(COLUMNS + table.getId(), ColumnForm.of(table));
        }
        try {
            kept.flush();
        } catch (BackingStoreException e) {
            System.getLogger(WindowMemory.class.getName())
                    .log(System.Logger.Level.WARNING, "the window's form was not kept", e);
        }
    }
}
