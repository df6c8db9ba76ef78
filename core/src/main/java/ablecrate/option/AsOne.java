package ablecrate.option;

/// Which sounds are treated as one.
/// @param folders whether those of a folder, or of a group the user made, get one gain
/// @param stems whether stems get one gain, and are trimmed to the same start and end
public record AsOne(boolean folders, boolean stems) {
    static final AsOne STEMS = new AsOne(false, true);

    public AsOne withFolders(boolean f) { return new AsOne(f, stems); }

    public AsOne withStems(boolean s) { return new AsOne(folders, s); }
}
