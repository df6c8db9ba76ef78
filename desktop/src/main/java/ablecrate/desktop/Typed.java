package ablecrate.desktop;

import java.util.Optional;

import javafx.css.PseudoClass;
import javafx.scene.control.TextField;

/// What people type into fields.
public final class Typed {
    private static final PseudoClass WRONG = PseudoClass.getPseudoClass("wrong");

    private Typed() {}

    /// Shows whether what is typed into a field can be taken over.
    public static void mark(TextField field, boolean isWrong) {
        field.pseudoClassStateChanged(WRONG, isWrong);
        if (!isWrong) Tips.fault(field, Optional.empty());
    }

    /// The same; why it cannot is said in place of what the field is for.
    public static void mark(TextField field, Optional<String> fault) {
        mark(field, fault.isPresent());
        Tips.fault(field, fault);
    }

    /// With the point and the minus sign that numbers are read with: keyboards and habits of many countries have a decimal comma.
    public static String number(String text) { return text.strip().replace(',', '.').replace('−', '-'); }
}
