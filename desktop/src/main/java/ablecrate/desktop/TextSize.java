package ablecrate.desktop;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Comparator;
import java.util.List;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.layout.Region;
import javafx.scene.transform.Scale;

/// How large text is, and with it all that is drawn: the window's content is laid out in less room and shown to scale, so that nothing is
/// larger than what stands beside it. Menus and tooltips, which lie in windows of their own, get larger text.
public final class TextSize extends Region {
    /// Per cent.
    public static final List<Integer> STEPS = List.of(80, 90, 100, 110, 125, 150, 175, 200);
    public static final int USUAL = 100;
    private static final double MENU_PIXELS = 13, TOOLTIP_PIXELS = 12.5;

    private final Parent content;
    private final Scale scale = new Scale(1, 1, 0, 0);

    TextSize(Parent content) {
        this.content = content;
        content.getTransforms().add(scale);
        getChildren().add(content);
    }

    static int nearest(int percent) { return STEPS.stream().min(Comparator.comparingInt(s -> Math.abs(s - percent))).orElseThrow(); }

    /// The next larger or smaller; the same at the end of the row.
    static int step(int percent, int direction) {
        return STEPS.get(Math.clamp(STEPS.indexOf(nearest(percent)) + direction, 0, STEPS.size() - 1));
    }

    void show(Scene scene, int percent) {
        scale.setX(percent / 100.0);
        scale.setY(percent / 100.0);
        scene.getStylesheets().removeIf(s -> s.startsWith("data:"));
        String popups = ".context-menu, .combo-box-popup { -fx-font-size: " + MENU_PIXELS * percent / 100 + "px; } .tooltip { -fx-font-size: "
                + TOOLTIP_PIXELS * percent / 100 + "px; }";
        if (percent != USUAL) scene.getStylesheets().add("data:text/css," + URLEncoder.encode(popups, StandardCharsets.UTF_8).replace("+", "%20"));
        requestLayout();
    }

    @Override protected void layoutChildren() { content.resize(getWidth() / scale.getX(), getHeight() / scale.getY()); }
}
