package ablecrate.option;

import ablecrate.instrument.PlayingSettings;

/// How instruments are to be played.
/// @param defaults whether zones without a release get one that suits the instrument's kind
/// @param settings of instruments as a whole, in the place of what their source says
public record Playing(boolean defaults, PlayingSettings settings) {
    public static final Playing USUAL = new Playing(true, PlayingSettings.NONE);

    public Playing withDefaults(boolean wanted) { return new Playing(wanted, settings); }

    public Playing withSettings(PlayingSettings others) { return new Playing(defaults, others); }
}
