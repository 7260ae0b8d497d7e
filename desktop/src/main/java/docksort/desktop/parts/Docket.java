package docksort.desktop.parts;

import java.util.List;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.layout.VBox;

/// A station's docket page. It is built anew when the window comes to it: once, however many changes
/// asked for it, and only while it is shown. Keys that walk through a long list wait for no page.
public final class Docket extends VBox {
    private final Supplier<? extends List<? extends Node>> content;
    private boolean stale = true;
    private boolean coming;

    /// @param content makes what is on the page; asked on the window's thread
    public Docket(Supplier<? extends List<? extends Node>> content) {
        this.content = content;
        getStyleClass().add("docket-page");
        sceneProperty().subscribe(this::comeSoon);
    }

    /// What the page shows has changed.
    public void refresh() {
        stale = true;
        comeSoon();
    }

    private void comeSoon() {
        if (stale && !coming && getScene() != null) {
            coming = true;
            Platform.runLater(this::build);
        }
    }

    private void build() {
        coming = false;
        if (getScene() != null) {
            bring();
        }
    }

    /// Brings the page to what it would show, also unseen, for those that read what can be done there.
    public void bring() {
        if (stale) {
            stale = false;
            getChildren().setAll(content.get());
        }
    }
}
