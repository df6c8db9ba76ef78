package ablecrate.instrument;

/// What makes a zone sound.
public enum Trigger { ATTACK, RELEASE, FIRST, LEGATO }
