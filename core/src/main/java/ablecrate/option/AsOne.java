package ablecrate.option;

/// Which sounds are treated as one.
/// @param folders whether those of a folder, or of a group the user made, get one gain
/// @param stems whether stems get one gain, and are trimmed to the same start and end
/// @param pads whether stems end with the longest of them, as silence is added
public record AsOne(boolean folders, boolean stems, boolean pads) {
    static final AsOne STEMS = new AsOne(false, true, false);

    public AsOne withFolders(boolean f) { return new AsOne(f, stems, pads); }

    public AsOne withStems(boolean s) { return new AsOne(folders, s, pads); }

    public AsOne withPads(boolean p) { return new AsOne(folders, stems, p); }
}
