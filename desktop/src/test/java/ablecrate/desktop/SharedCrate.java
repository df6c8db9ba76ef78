package ablecrate.desktop;

import ablecrate.demo.CrateForTests;
import ablecrate.library.Catalogue;
import java.nio.file.Path;

/// The demo crate, made once for all tests, which read it and no more; and a catalogue of it, so that each sound is listened to once.
public final class SharedCrate {
    public static final Path FOLDER = CrateForTests.shared();
    public static final Catalogue CATALOGUE = Catalogue.ofUser();

    private SharedCrate() {}
}
