package ablecrate.desktop;

import java.util.function.Function;
import javafx.util.StringConverter;

/// What is chosen from, in words.
public final class Words {
    private Words() {}

    /// For choices that are not typed.
    public static <T> StringConverter<T> of(Function<T, String> text) {
        return new StringConverter<>() {
            @Override public String toString(T value) { return value == null ? "" : text.apply(value); }

            @Override public T fromString(String shown) { throw new IllegalStateException("not editable"); }
        };
    }
}
