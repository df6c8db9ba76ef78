package ablecrate.desktop.help;

import ablecrate.desktop.Buttons;
import ablecrate.desktop.Headings;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Hyperlink;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextArea;
import javafx.scene.image.ImageView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.text.Text;
import javafx.scene.text.TextFlow;
import org.commonmark.node.BulletList;
import org.commonmark.node.Code;
import org.commonmark.node.Emphasis;
import org.commonmark.node.FencedCodeBlock;
import org.commonmark.node.Heading;
import org.commonmark.node.Image;
import org.commonmark.node.Link;
import org.commonmark.node.ListItem;
import org.commonmark.node.OrderedList;
import org.commonmark.node.Paragraph;
import org.commonmark.node.SoftLineBreak;
import org.commonmark.node.StrongEmphasis;
import org.commonmark.parser.Parser;

/// The guide: one page at a time, with the way back.
public final class GuideView extends VBox {
    private static final double TEXT_WIDTH = 760, PICTURE_WIDTH = 720;

    private final Deque<String> before = new ArrayDeque<>();
    private final ScrollPane scroll = new ScrollPane();
    private final Button back = Buttons.of("guide-back", "Back", "To the page before", this::back);
    private String open = "";

    /// @param page of [Guide] to open first
    public GuideView(String page, Runnable close) {
        getStyleClass().addAll("overlay", "guide");
        setId("guide");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox head = new HBox(10, Headings.title("Guide"), gap, back, Buttons.of("guide-index", "All pages", "What there is to read", () -> go(Guide.INDEX)),
                Buttons.of("guide-close", "Close", "Esc", close));
        head.setAlignment(Pos.CENTER_LEFT);
        scroll.setFitToWidth(true);
        scroll.setId("guide-page");
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(head, scroll);
        show(page);
    }

    public String page() { return open; }

    private void go(String page) {
        if (page.equals(open)) return;
        before.push(open);
        show(page);
    }

    private void back() {
        if (!before.isEmpty()) show(before.pop());
    }

    private void show(String page) {
        open = page;
        back.setDisable(before.isEmpty());
        VBox text = new VBox(10);
        text.setMaxWidth(TEXT_WIDTH);
        text.getStyleClass().add("guide-text");
        blocks(Parser.builder().build().parse(Guide.page(page).orElse("# There is no page '" + page + "'")), text);
        scroll.setContent(text);
        scroll.setVvalue(0);
    }

    private void blocks(org.commonmark.node.Node above, VBox into) {
        for (org.commonmark.node.Node n = above.getFirstChild(); n != null; n = n.getNext())
            switch (n) {
            case Heading h -> into.getChildren().add(Headings.label(words(h), h.getLevel() == 1 ? "title" : "guide-heading"));
            case Paragraph p when p.getFirstChild() instanceof Image image -> Guide.picture(image.getDestination(), PICTURE_WIDTH).ifPresent(i -> {
                ImageView view = new ImageView(i);
                view.setAccessibleText(words(image));
                into.getChildren().add(view);
            });
            case Paragraph p -> into.getChildren().add(flow(p));
            case FencedCodeBlock code -> into.getChildren().add(commands(code.getLiteral().stripTrailing()));
            case OrderedList list -> items(list, into, true);
            case BulletList list -> items(list, into, false);
            default -> throw new IllegalArgumentException("the guide has no place for " + n);
            }
    }

    private void items(org.commonmark.node.Node list, VBox into, boolean isNumbered) {
        int number = 1;
        for (org.commonmark.node.Node item = list.getFirstChild(); item instanceof ListItem; item = item.getNext()) {
            Label mark = new Label(isNumbered ? number++ + "." : "–");
            mark.setMinWidth(18);
            VBox text = new VBox(4);
            blocks(item, text);
            HBox.setHgrow(text, Priority.ALWAYS);
            into.getChildren().add(new HBox(6, mark, text));
        }
    }

    /// Can be copied.
    private static Node commands(String text) {
        TextArea area = new TextArea(text);
        area.setEditable(false);
        area.setWrapText(true);
        area.setAccessibleText("Commands");
        area.getStyleClass().add("guide-commands");
        // Long commands take a second line.
        area.setPrefRowCount((int) text.lines().mapToLong(l -> 1 + l.length() / 92).sum());
        return area;
    }

    private TextFlow flow(org.commonmark.node.Node above) {
        TextFlow flow = new TextFlow();
        inline(above, "guide-words", flow);
        return flow;
    }

    private void inline(org.commonmark.node.Node above, String style, TextFlow into) {
        for (org.commonmark.node.Node n = above.getFirstChild(); n != null; n = n.getNext())
            switch (n) {
            case org.commonmark.node.Text t -> into.getChildren().add(text(t.getLiteral(), style));
            case Code c -> into.getChildren().add(text(c.getLiteral(), "guide-code"));
            case SoftLineBreak _ -> into.getChildren().add(text(" ", style));
            case Emphasis e -> inline(e, "guide-label", into);
            case StrongEmphasis e -> inline(e, "guide-label", into);
            case Link link -> into.getChildren().add(link(link));
            default -> throw new IllegalArgumentException("the guide has no place for " + n);
            }
    }

    /// To another page; other documents are named, as they lie beside the program.
    private Node link(Link link) {
        String page = link.getDestination().replaceFirst("\\.md$", "");
        if (Guide.page(page).isEmpty()) return text(words(link), "guide-words");
        Hyperlink to = new Hyperlink(words(link));
        to.setId("guide-to-" + page);
        to.setOnAction(_ -> go(page));
        return to;
    }

    private static Text text(String words, String style) {
        Text text = new Text(words);
        text.getStyleClass().addAll(List.of("guide-words", style));
        return text;
    }

    private static String words(org.commonmark.node.Node above) {
        StringBuilder out = new StringBuilder();
        for (org.commonmark.node.Node n = above.getFirstChild(); n != null; n = n.getNext())
            out.append(n instanceof org.commonmark.node.Text t ? t.getLiteral() : n instanceof Code c ? c.getLiteral() : words(n));
        return out.toString();
    }
}
