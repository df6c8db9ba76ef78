package ablecrate.desktop;

import java.util.Optional;

import javafx.event.EventHandler;
import javafx.scene.Node;
import javafx.scene.control.Tooltip;
import javafx.scene.input.MouseEvent;

/// What is said of something while the pointer rests on it, and to those who have the window read out. One tooltip serves them all: each is a window of its own, and some two hundred of them
/// stood before the first picture.
public final class Tips {
    private static final String TEXT = "tip", FAULT = "fault";
    private static final double WIDEST = 460;
    private static final EventHandler<MouseEvent> SAYS = e -> Shared.TOOLTIP.setText(of((Node) e.getSource()));

    private Tips() {}

    /// Made when it is first needed, as it wants a window system.
    private static final class Shared {
        static final Tooltip TOOLTIP = new Tooltip();

        static {
            TOOLTIP.setWrapText(true);
            TOOLTIP.setMaxWidth(WIDEST);
        }
    }

    /// Says this of a node from now on; an empty text says nothing.
    public static void on(Node node, String text) { put(node, TEXT, text); }

    /// Says a fault in place of what is said otherwise, until there is none.
    static void fault(Node node, Optional<String> fault) { put(node, FAULT, fault.orElse("")); }

    private static void put(Node node, String key, String text) {
        boolean said = !of(node).isEmpty();
        node.getProperties().put(key, text);
        String now = of(node);
        boolean says = !now.isEmpty();
        node.setAccessibleHelp(says ? now : null);
        if (says && !said) {
            // Before the tooltip's own, which shows what is said by then.
            node.addEventHandler(MouseEvent.MOUSE_MOVED, SAYS);
            Tooltip.install(node, Shared.TOOLTIP);
        } else if (said && !says) {
            Tooltip.uninstall(node, Shared.TOOLTIP);
            node.removeEventHandler(MouseEvent.MOUSE_MOVED, SAYS);
        }
    }

    /// @return what is said of a node, or nothing
    public static String of(Node node) {
        String fault = get(node, FAULT);
        return fault.isEmpty() ? get(node, TEXT) : fault;
    }

    private static String get(Node node, String key) { return node.hasProperties() ? (String) node.getProperties().getOrDefault(key, "") : ""; }
}
