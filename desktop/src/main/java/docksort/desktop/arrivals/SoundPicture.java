package docksort.desktop.arrivals;

import docksort.desktop.parts.Parts;
import docksort.media.ClipSound;
import docksort.media.ClipSound.Channel;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;

/// How loud the channels of a clip are, each as a bar, with what somebody should know of them.
final class SoundPicture {
    private static final double WIDTH = 126;
    private static final double LOWEST = -60; // dBFS at the left end of a bar
    private static final double HEIGHT = 8;

    private SoundPicture() {}

    static List<Node> of(ClipSound sound) {
        var page = new ArrayList<Node>();
        sound.told().forEach(said -> page.add(Parts.wrapped(said + ".", "look")));
        page.add(line("", new Region(), "level", "peak"));
        for (int i = 0; i < sound.channels().size(); i++) {
            Channel channel = sound.channels().get(i);
            Node line = line(
                    Integer.toString(i + 1),
                    bar(channel),
                    Channel.label(channel.levelDecibels()),
                    Channel.label(channel.peakDecibels()));
            line.setAccessibleText("Channel " + (i + 1) + ": level " + Channel.label(channel.levelDecibels())
                    + " dBFS, peak " + Channel.label(channel.peakDecibels()) + " dBFS");
            page.add(line);
        }
        page.add(Parts.wrapped(
                "Over all of the clip, in dBFS; bars begin at −60. Level: a sine that reaches full scale has 0. The"
                        + " tick is the loudest sample.",
                "quiet"));
        return page;
    }

    private static Node line(String name, Region bar, String level, String peak) {
        Label number = Parts.label(name, "mono");
        number.setMinWidth(18);
        bar.setMinWidth(WIDTH);
        bar.setMaxWidth(WIDTH);
        var line = new HBox(8, number, bar, figure(level), figure(peak));
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static Label figure(String text) {
        Label figure = Parts.label(text, "mono");
        figure.setMinWidth(56);
        figure.setAlignment(Pos.CENTER_RIGHT);
        return figure;
    }

    private static Region bar(Channel channel) {
        var level = new Region();
        level.getStyleClass().add("lever-bar");
        level.resizeRelocate(0, 1, x(channel.levelDecibels()), HEIGHT - 2);
        var peak = new Region();
        peak.getStyleClass().add("sound-peak");
        peak.resizeRelocate(Math.max(0, x(channel.peakDecibels()) - 2), 0, 2, HEIGHT);
        peak.setVisible(!channel.isSilent());
        var bar = new Pane(level, peak);
        level.setManaged(false);
        peak.setManaged(false);
        bar.getStyleClass().add("sound-bar");
        bar.setMinHeight(HEIGHT);
        bar.setMaxHeight(HEIGHT);
        return bar;
    }

    private static double x(double decibels) {
        return WIDTH * Math.clamp((decibels - LOWEST) / -LOWEST, 0, 1);
    }
}
