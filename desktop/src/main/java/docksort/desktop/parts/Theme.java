package docksort.desktop.parts;

import atlantafx.base.theme.PrimerLight;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Objects;
import javafx.application.Application;
import javafx.scene.text.Font;

/// The fonts and style sheets that ship with the program.
public final class Theme {
    private static final List<String> FONTS =
            List.of("IBMPlexSans-Regular.ttf", "IBMPlexSans-SemiBold.ttf", "IBMPlexMono-Regular.ttf");

    private Theme() {}

    /// Loads fonts and the base theme. Once, on the window's thread.
    public static void install() {
        for (String font : FONTS) {
            try (InputStream in = Theme.class.getResourceAsStream("fonts/" + font)) {
                if (in == null || Font.loadFont(in, 13) == null) {
                    throw new IllegalStateException("the font " + font + " does not load");
                }
            } catch (IOException e) {
                throw new IllegalStateException("the font " + font + " does not load", e);
            }
        }
        Application.setUserAgentStylesheet(new PrimerLight().getUserAgentStylesheet());
    }

    public static String stylesheet() {
        return Objects.requireNonNull(Theme.class.getResource("theme.css")).toExternalForm();
    }
}
