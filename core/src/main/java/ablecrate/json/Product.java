package ablecrate.json;

/// Which program wrote a file.
public final class Product {
    public static final String NAME = "Able Crate", VERSION = "0.1.0";

    private Product() {}
}
