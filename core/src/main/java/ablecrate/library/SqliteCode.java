package ablecrate.library;

import ablecrate.disk.SafeFile;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.sqlite.SQLiteJDBCLoader;
import org.sqlite.util.LibraryLoaderUtil;

/// SQLite's machine code. The driver has it in its jar, and by itself unpacks and compares it at every start, which takes a tenth of a second; kept
/// unpacked it is there at once. Where it cannot be kept the driver does as before.
final class SqliteCode {
    private static final Logger LOG = LoggerFactory.getLogger(SqliteCode.class);
    private static final String FOLDER = "org.sqlite.lib.path";

    private SqliteCode() {}

    /// Keeps the code below a folder, by version and kind of machine, and points the driver to it. To be called before the first connection.
    static synchronized void keepIn(Path folder) {
        if (System.getProperty(FOLDER) != null) return;
        String name = LibraryLoaderUtil.getNativeLibName(), place = LibraryLoaderUtil.getNativeLibResourcePath();
        Path kept = folder.resolve("sqlite-" + SQLiteJDBCLoader.getVersion() + place).resolve(name);
        try {
            if (!Files.exists(kept)) unpack(place + "/" + name, kept);
            System.setProperty(FOLDER, kept.getParent().toString());
        } catch (IOException e) {
            LOG.debug("SQLite is unpacked anew: {}", e.getMessage());
        }
    }

    private static void unpack(String resource, Path kept) throws IOException {
        try (InputStream in = SQLiteJDBCLoader.class.getResourceAsStream(resource)) {
            if (in == null) throw new IOException("no " + resource + " in the driver");
            Files.createDirectories(kept.getParent());
            SafeFile.write(kept, in.readAllBytes());
        }
    }
}
