package ablecrate.desktop;

import javafx.collections.ListChangeListener;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;

/// The width of tables.
public final class Columns {
    private Columns() {}

    /// Columns share the width while each has at least what it needs; in less, the table scrolls.
    public static <T> void share(TableView<T> table) {
        table.widthProperty().subscribe(() -> fit(table));
        table.getVisibleLeafColumns().addListener((ListChangeListener<TableColumn<T, ?>>) _ -> fit(table));
    }

    private static void fit(TableView<?> table) {
        double least = table.getVisibleLeafColumns().stream().mapToDouble(TableColumn::getMinWidth).sum();
        var wanted = least > table.getWidth() ? TableView.UNCONSTRAINED_RESIZE_POLICY : TableView.CONSTRAINED_RESIZE_POLICY_FLEX_LAST_COLUMN;
        if (table.getColumnResizePolicy() != wanted) table.setColumnResizePolicy(wanted);
    }
}
