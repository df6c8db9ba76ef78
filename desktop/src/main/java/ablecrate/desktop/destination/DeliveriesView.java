package ablecrate.desktop.destination;

import ablecrate.audio.Figures;
import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.desktop.Buttons;
import ablecrate.desktop.Tips;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.crate.DeliveryPlan;
import ablecrate.desktop.crate.Overview;
import ablecrate.desktop.list.VerdictStamp;
import ablecrate.destination.DestinationSheet;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// All destinations of the job, where there are several: what each takes, and which is looked at.
final class DeliveriesView extends VBox {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");

    private final CrateModel crate;

    DeliveriesView(CrateModel crate) {
        this.crate = crate;
        setId("deliveries");
        getStyleClass().add("deliveries");
        managedProperty().bind(visibleProperty());
        crate.onPlans(this::renew);
        crate.jobProperty().subscribe(_ -> renew());
    }

    /// The menu by which another destination is added.
    /// @param chooseSheet asks for a sheet's file
    static MenuButton adding(CrateModel crate, Runnable chooseSheet) {
        MenuButton add = new MenuButton("Also for");
        add.setId("add-destination");
        add.getStyleClass().add("small");
        add.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(add, "Pack the same sounds for another destination in the same run (Alt+Shift+D)");
        for (DestinationSheet sheet : crate.builtInSheets())
            add.getItems().add(item(sheet.name(), () -> crate.alsoFor(sheet.id())));
        add.getItems().addAll(new SeparatorMenuItem(), item(DestinationView.OWN_SHEET, chooseSheet));
        return add;
    }

    private static MenuItem item(String text, Runnable run) {
        MenuItem item = new MenuItem(text);
        item.setOnAction(_ -> run.run());
        return item;
    }

    private void renew() {
        List<DeliveryPlan> plans = crate.plans();
        int count = crate.job().deliveries().size();
        setVisible(count > 1);
        // What is being planned anew is told once it is known; until then it stands as it was.
        if (count == 1 || plans.size() != count) {
            if (count == 1) getChildren().clear();
            return;
        }
        boolean hadFocus = getChildren().stream().anyMatch(Node::isFocusWithin);
        getChildren().clear();
        for (int i = 0; i < count; i++)
            getChildren().add(row(i, plans.get(i)));
        if (hadFocus) getChildren().get(crate.job().shown()).lookup(".delivery").requestFocus();
    }

    private HBox row(int number, DeliveryPlan plan) {
        boolean isChosen = number == crate.job().shown();
        Label digit = new Label(Integer.toString(number + 1)), name = new Label(plan.name()), what = new Label(words(plan));
        digit.getStyleClass().add("rule-count");
        name.getStyleClass().add("rule-title");
        what.getStyleClass().add("hint");
        VBox words = new VBox(name, what);
        words.setMinWidth(0);
        HBox.setHgrow(words, Priority.ALWAYS);
        HBox inside = new HBox(8, new VerdictStamp(worst(plan)), digit, words);
        inside.setAlignment(Pos.CENTER_LEFT);
        ToggleButton button = new ToggleButton();
        button.setGraphic(inside);
        button.setId("delivery-" + (number + 1));
        button.getStyleClass().addAll("rule", "delivery");
        button.setMaxWidth(Double.MAX_VALUE);
        button.setAlignment(Pos.CENTER_LEFT);
        button.setSelected(isChosen);
        button.pseudoClassStateChanged(CHOSEN, isChosen);
        button.setAccessibleText("Destination " + (number + 1) + ": " + plan.name() + ", " + what.getText());
        Tips.on(button, plan.name() + "\n" + what.getText() + "\n" + plan.delivery().into().map(Path::toString).orElse("no folder chosen yet")
                + "\nLook at this destination (Alt+D: the next)");
        button.setOnAction(_ -> {
            // A choice stays a choice when it is clicked again.
            button.setSelected(true);
            crate.showDelivery(number);
        });
        HBox.setHgrow(button, Priority.ALWAYS);
        HBox row = new HBox(4, button);
        row.setAlignment(Pos.CENTER_LEFT);
        if (isChosen) {
            Button remove = Buttons.of("remove-destination", "×", "Pack for this destination no longer; what is packed stays", crate::notFor);
            remove.setAccessibleText("Pack for " + plan.name() + " no longer");
            row.getChildren().add(remove);
        }
        return row;
    }

    private static Verdict worst(DeliveryPlan plan) {
        return plan.overview().map(o -> Arrays.stream(Verdict.values()).filter(v -> o.totals().get(v) > 0).max(Verdict::compareTo).orElse(Verdict.KEPT))
                .orElse(Verdict.BLOCKED);
    }

    /// `80 lines, 5 blocked, 41.2 MB, lossy`
    private static String words(DeliveryPlan plan) {
        if (plan.overview().isEmpty()) return plan.fault().orElse("");
        Overview overview = plan.overview().get();
        int blocked = overview.totals().get(Verdict.BLOCKED);
        return Told.count(overview.going(), "line") + (blocked > 0 ? ", " + blocked + " blocked" : "") + ", " + Figures.bytes(overview.audioBytes())
                + (overview.isLossy() ? ", lossy" : "") + (plan.delivery().into().isEmpty() ? ", no folder" : "");
    }
}
