package docksort.desktop.sort;

import docksort.sort.VolumeLoad;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;

/// A volume's room: what is used, what the plan will use at most, what stays free. A plan that does not fit
/// runs over the end and changes its shape to a full-height block with the word beside it.
final class RoomBar extends Pane {
    private final Region used = new Region();
    private final Region plan = new Region();
    private double usedShare;
    private double planShare;

    RoomBar() {
        getStyleClass().add("room");
        used.getStyleClass().add("room-used");
        getChildren().addAll(used, plan);
        setMinHeight(26);
        setPrefHeight(26);
        setMaxHeight(26);
    }

    void show(VolumeLoad load) {
        double total = Math.max(1, load.room().total().bytes());
        usedShare = 1 - load.room().free().bytes() / total;
        planShare = Math.min(1 - usedShare, load.bytes().most().bytes() / total);
        plan.getStyleClass().setAll(load.fits() ? "room-plan" : "room-over");
        requestLayout();
    }

    @Override
    protected void layoutChildren() {
        double width = getWidth() - 2;
        double height = getHeight() - 2;
        used.resizeRelocate(1, 1, width * usedShare, height);
        // A plan that is there at all is at least two pixels wide, so that it can be seen on a large volume.
        double planWidth = planShare == 0 ? 0 : Math.max(2, width * planShare);
        plan.resizeRelocate(1 + width * usedShare, 1, planWidth, height);
    }
}
