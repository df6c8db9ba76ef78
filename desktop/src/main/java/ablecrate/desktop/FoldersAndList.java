package ablecrate.desktop;

import ablecrate.desktop.gathered.GatheredView;
import ablecrate.desktop.list.PackingListView;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.SplitPane;

/// Folders beside the packing list; where the window is narrow for its text they take turns.
final class FoldersAndList extends SplitPane {
    /// Of the layout.
    private static final double LEAST_FOR_BOTH = 1000, SHARE_OF_FOLDERS = 0.19;

    private final GatheredView folders;
    private final PackingListView list;
    private final Button turn = Buttons.of("show-folders", "Folders", "Folders or packing list (Alt+1, Alt+2)", this::turn);

    FoldersAndList(GatheredView folders, PackingListView list) {
        this.folders = folders;
        this.list = list;
        setMinHeight(0);
        setResizableWithParent(folders, false);
        folders.setMinWidth(158);
        list.setMinWidth(0);
        turn.managedProperty().bind(turn.visibleProperty());
        show(false);
    }

    /// Turns from the one to the other; seen only where they take turns.
    Button turnButton() { return turn; }

    /// @param width of the whole window's layout; 0 before there is one
    void fit(double width) {
        boolean isNarrow = width > 0 && width < LEAST_FOR_BOTH;
        if (isNarrow != turn.isVisible()) show(isNarrow);
    }

    private void show(boolean isNarrow) {
        turn.setVisible(isNarrow);
        if (isNarrow)
            showAlone(list);
        else {
            getItems().setAll(folders, list);
            setDividerPositions(SHARE_OF_FOLDERS);
        }
    }

    private void showAlone(Node pane) {
        getItems().setAll(pane);
        turn.setText(pane == list ? "Folders" : "Packing list");
    }

    private void turn() {
        if (getItems().contains(list))
            toFolders();
        else
            toList();
    }

    void toFolders() {
        if (turn.isVisible()) showAlone(folders);
        folders.focusTree();
    }

    void toList() {
        if (turn.isVisible()) showAlone(list);
        list.focusTable();
    }
}
