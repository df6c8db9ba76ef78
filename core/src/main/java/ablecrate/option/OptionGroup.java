package ablecrate.option;

/// Options as people think of them, in this order.
public enum OptionGroup {
    FORMAT("Format"), SESSION("Session"), LEVELS("Levels, ends and loops"), DAMAGE("Damage"), INSTRUMENTS("Instruments"), NAMES("Names, folders and kits"),
    THERE(
            "Existing files");

    private final String title;

    OptionGroup(String title) { this.title = title; }

    /// For people.
    public String title() { return title; }
}
