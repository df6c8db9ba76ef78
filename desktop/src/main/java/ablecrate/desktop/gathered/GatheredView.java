package ablecrate.desktop.gathered;

import ablecrate.audio.Figures;
import ablecrate.change.Verdict;
import ablecrate.desktop.Buttons;
import ablecrate.desktop.Headings;
import ablecrate.desktop.Tips;
import ablecrate.desktop.crate.FolderTree;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.desktop.list.VerdictStamp;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TreeCell;
import javafx.scene.control.TreeItem;
import javafx.scene.control.TreeView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// Left: folders with their counts; choosing one shows only what lies below it.
public final class GatheredView extends VBox {
    private final PackingListModel model;
    private final TreeView<FolderTree> tree = new TreeView<>();
    private final MenuButton recent = new MenuButton("Recent");
    private final Consumer<Path> gather;
    private List<FolderTree> shown = List.of();
    private boolean renewing;

    /// @param gatherFolder asks for a folder
    /// @param gatherFiles asks for files
    /// @param gather gathers a folder that was gathered before
    public GatheredView(PackingListModel model, Runnable gatherFolder, Runnable gatherFiles, Consumer<Path> gather) {
        this.model = model;
        this.gather = gather;
        getStyleClass().add("gathered");
        Label title = Headings.heading("Gathered");
        Label total = new Label();
        total.getStyleClass().add("number-quiet");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox head = new HBox(6, title, gap, total);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add("pane-head");
        tree.setId("gathered");
        tree.setAccessibleText("Gathered folders");
        tree.setShowRoot(false);
        tree.setRoot(new TreeItem<>());
        tree.setCellFactory(_ -> new FolderCell());
        tree.getSelectionModel().selectedItemProperty().subscribe(item -> {
            if (!renewing) model.folderProperty().set(Optional.ofNullable(item).map(TreeItem::getValue).map(FolderTree::folder));
        });
        model.folderProperty().subscribe(folder -> {
            if (folder.isEmpty()) tree.getSelectionModel().clearSelection();
        });
        VBox.setVgrow(tree, Priority.ALWAYS);
        Button folder = Buttons.wide("gather-folder", "Gather a folder…", "Ctrl+G", gatherFolder),
                files = Buttons.wide("gather-files", "Gather files…", "Ctrl+Shift+G", gatherFiles);
        recent.setId("gather-recent");
        recent.setMaxWidth(Double.MAX_VALUE);
        Tips.on(recent, "Folders that were gathered before");
        recent.managedProperty().bind(recent.visibleProperty());
        recent.setVisible(false);
        VBox foot = new VBox(6, folder, files, recent);
        foot.getStyleClass().add("pane-foot");
        getChildren().addAll(head, tree, foot);
        model.onOverview(o -> {
            total.setText(Figures.grouped(o.list().items().size()));
            renew(o.folders());
        });
    }

    /// What the right button offers on folders; the folder under it is the one that is shown.
    public void useMenu(ContextMenu menu) { tree.setContextMenu(menu); }

    /// @param folders that were gathered before and are not in the job, the last first
    public void showRecent(List<Path> folders) {
        recent.getItems().setAll(folders.stream().map(f -> {
            MenuItem item = new MenuItem(f.toString());
            item.setMnemonicParsing(false);
            item.setOnAction(_ -> gather.accept(f));
            return item;
        }).toList());
        recent.setVisible(!folders.isEmpty());
    }

    public void focusTree() { tree.requestFocus(); }

    private void renew(List<FolderTree> next) {

        if (next.equals(shown)) return;
        shown = next;
        renewing = true;
        fill(tree.getRoot(), next);
        model.folderProperty().get().ifPresent(chosen -> select(tree.getRoot(), chosen));
        renewing = false;
    }

    private void select(TreeItem<FolderTree> below, Path folder) {
        for (TreeItem<FolderTree> child : below.getChildren()) {
            if (child.getValue().folder().equals(folder)) tree.getSelectionModel().select(child);
            select(child, folder);
        }
    }

    /// Folders that are there stay, with what is below them open or closed.
    private static void fill(TreeItem<FolderTree> above, List<FolderTree> folders) {
        Map<Path, TreeItem<FolderTree>> before = above.getChildren().stream().collect(Collectors.toMap(i -> i.getValue().folder(), i -> i));
        List<TreeItem<FolderTree>> now = new ArrayList<>();
        for (FolderTree folder : folders) {
            TreeItem<FolderTree> item = before.getOrDefault(folder.folder(), new TreeItem<>());
            if (item.getValue() == null) item.setExpanded(true);
            item.setValue(folder);
            fill(item, folder.below());
            now.add(item);
        }
        if (!now.equals(above.getChildren())) above.getChildren().setAll(now);
    }

    private static final class FolderCell extends TreeCell<FolderTree> {
        private final Label name = new Label(), blocked = new Label("", new VerdictStamp(Verdict.BLOCKED)), files = new Label();
        private final Region gap = new Region();
        private final HBox box = new HBox(6, name, gap, blocked, files);

        FolderCell() {
            HBox.setHgrow(gap, Priority.ALWAYS);
            box.setAlignment(Pos.CENTER_LEFT);
            name.setMinWidth(30);
            blocked.getStyleClass().add("count-blocked");
            files.getStyleClass().add("number-quiet");
            blocked.setMinWidth(USE_PREF_SIZE);
            files.setMinWidth(USE_PREF_SIZE);
            setPrefWidth(0);
        }

        @Override protected void updateItem(FolderTree folder, boolean empty) {
            super.updateItem(folder, empty);
            setGraphic(empty || folder == null ? null : box);
            // Names that are cut off are told whole.
            Tips.on(this, empty || folder == null ? "" : folder.folder().toString());
            if (empty || folder == null) return;
            name.setText(folder.name());
            files.setText(String.format(Locale.ROOT, "%,d", folder.files()));
            blocked.setText(Integer.toString(folder.blocked()));
            blocked.setVisible(folder.blocked() > 0 && folder.below().isEmpty());
            blocked.setManaged(blocked.isVisible());
            setAccessibleText(folder.name() + ", " + folder.files() + " files, " + folder.blocked() + " blocked");
        }
    }
}
