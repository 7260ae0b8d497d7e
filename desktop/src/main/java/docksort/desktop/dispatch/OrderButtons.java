package docksort.desktop.dispatch;

import docksort.stock.ServingOrder;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.Region;

/// One button for each serving order, of which one is chosen.
final class OrderButtons {
    private OrderButtons() {}

    static List<ToggleButton> of(String id, Optional<ServingOrder> now, Consumer<ServingOrder> chosen) {
        var group = new ToggleGroup();
        var buttons = new ArrayList<ToggleButton>();
        for (ServingOrder order : ServingOrder.ALL) {
            var button = new ToggleButton(
                    switch (order.id()) {
                        case "light" -> "light first";
                        case "full" -> "full first";
                        default -> "originals";
                    });
            button.setId(id + order.id());
            button.getStyleClass().setAll("order");
            button.setAccessibleText("Serve " + order.label());
            button.setMinWidth(Region.USE_PREF_SIZE);
            button.setToggleGroup(group);
            button.setSelected(now.filter(its -> its.id().equals(order.id())).isPresent());
            button.setOnAction(_ -> {
                button.setSelected(true);
                chosen.accept(order);
            });
            buttons.add(button);
        }
        return buttons;
    }
}
