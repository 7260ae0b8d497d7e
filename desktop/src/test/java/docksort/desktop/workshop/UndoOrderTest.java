package docksort.desktop.workshop;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/// A switch of the timeline and changes of the project, in the order in which a person goes back and forth.
class UndoOrderTest {
    private final UndoOrder order = new UndoOrder();

    @Test
    void whatWasTakenBackLastIsDoneAgainFirst() {
        order.projectChanged();
        order.timelineSwitched();
        assertThat(order.isSwitch()).isTrue();
        assertThat(order.wasSwitch()).isFalse();

        order.switchTakenBack(false);
        assertThat(order.isSwitch()).as("the project's change is next").isFalse();
        assertThat(order.wasSwitch()).isTrue();
        order.projectTakenBack();
        order.projectTakenBack();
        assertThat(order.wasSwitch()).as("two of the project's come first").isFalse();
        order.projectDoneAgain();
        assertThat(order.wasSwitch()).isFalse();
        order.projectDoneAgain();
        assertThat(order.wasSwitch()).as("then the switch").isTrue();

        order.projectChanged();
        assertThat(order.wasSwitch()).as("something new ends it").isFalse();
    }

    @Test
    void severalSwitchesAreTakenBackOneAfterTheOther() {
        order.timelineSwitched();
        order.timelineSwitched();
        order.switchTakenBack(true);
        assertThat(order.isSwitch()).isTrue();
        assertThat(order.wasSwitch()).isTrue();
        order.timelineSwitched();
        assertThat(order.wasSwitch()).as("another way was taken").isFalse();
    }
}
