package ablecrate.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/// The catalogue's SQLite file: opened when it is first asked, waited for while other programs write, started anew where it is damaged.
/// Once it cannot be used, it answers nothing more.
final class CatalogueFile implements AutoCloseable {
    /// Raised whenever what is kept changes its shape.
    private static final int VERSION = 5;
    private static final int WAIT_MS = 2000;
    /// Result codes of SQLite, see sqlite.org/rescode.html.
    private static final int BUSY = 5, LOCKED = 6, CORRUPT = 11, NO_DATABASE = 26;

    private final Path file;
    private Connection connection;
    private boolean isBroken;

    CatalogueFile(Path file) { this.file = file; }

    /// One that keeps nothing.
    static CatalogueFile none() {
        CatalogueFile none = new CatalogueFile(Path.of(""));
        none.isBroken = true;
        return none;
    }

    Path file() { return file; }

    /// Whether it keeps nothing and knows nothing.
    synchronized boolean isBroken() { return isBroken; }

    interface Work<T> {
        T on(Connection connection) throws SQLException;
    }

    /// @param otherwise the answer where the file cannot be used
    synchronized <T> T with(T otherwise, Work<T> work) {
        if (isBroken) return otherwise;
        try {
            if (connection == null) connection = connect();
            try {
                return work.on(connection);
            } catch (SQLException e) {
                // A damaged page is met only where it is read.
                if (!isDamaged(e)) throw e;
                close();
                startAnew(e);
                connection = patiently();
                return work.on(connection);
            }
        } catch (SQLException | IOException e) {
            // Another program writing for long costs this answer alone.
            isBroken = !(e instanceof SQLException told && isBusy(told));
            log().warn("the catalogue {} cannot be used: {}", file, e.getMessage());
            return otherwise;
        }
    }

    private Connection connect() throws SQLException, IOException {
        Files.createDirectories(file.toAbsolutePath().getParent());
        try {
            return patiently();
        } catch (SQLException e) {
            if (!isDamaged(e)) throw e;
            startAnew(e);
            return patiently();
        }
    }

    /// It holds nothing that cannot be found out again.
    private void startAnew(SQLException why) throws IOException {
        log().warn("the catalogue {} is started anew: {}", file, why.getMessage());
        for (String end : List.of("", "-wal", "-shm"))
            Files.deleteIfExists(Path.of(file + end));
    }

    private static boolean isDamaged(SQLException e) {
        int kind = e.getErrorCode() & 0xFF;
        return kind == CORRUPT || kind == NO_DATABASE;
    }

    /// SQLite does not wait by itself where two programs change the way of writing at once.
    private Connection patiently() throws SQLException {
        long until = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(WAIT_MS);
        while (true)
            try {
                return prepared();
            } catch (SQLException e) {
                if (!isBusy(e) || System.nanoTime() > until) throw e;
                LockSupport.parkNanos(TimeUnit.MILLISECONDS.toNanos(2));
            }
    }

    /// Asked for only when there is something to tell, as it takes longer to set up than a small pack to plan.
    private static Logger log() { return LoggerFactory.getLogger(CatalogueFile.class); }

    /// The low byte is the kind of failure, the others tell more of it.
    private static boolean isBusy(SQLException e) {
        int kind = e.getErrorCode() & 0xFF;
        return kind == BUSY || kind == LOCKED;
    }

    private Connection prepared() throws SQLException {
        Connection opened = DriverManager.getConnection("jdbc:sqlite:" + file);
        try (Statement s = opened.createStatement()) {
            s.execute("PRAGMA busy_timeout=" + WAIT_MS);
            s.execute("PRAGMA journal_mode=WAL");
            s.execute("PRAGMA synchronous=NORMAL");
            if (version(s) == VERSION) return opened;
            // Another program may be doing the same: what it has kept meanwhile stays.
            s.execute("BEGIN IMMEDIATE");
            if (version(s) != VERSION) {
                s.execute("DROP TABLE IF EXISTS known");
                s.execute(
                        "CREATE TABLE known (path TEXT, what TEXT, bytes INTEGER, changed INTEGER, value BLOB, PRIMARY KEY (path, what)) WITHOUT ROWID");
                s.execute("CREATE INDEX contents ON known(value) WHERE what='" + Catalogue.DIGEST + "'");
                s.execute("PRAGMA user_version=" + VERSION);
            }
            s.execute("COMMIT");
            return opened;
        } catch (SQLException e) {
            opened.close();
            throw e;
        }
    }

    private static int version(Statement s) throws SQLException {
        try (ResultSet r = s.executeQuery("PRAGMA user_version")) {
            return r.getInt(1);
        }
    }

    /// Bytes on the disk, what is being written included.
    long bytes() throws IOException {
        long sum = 0;
        for (String end : List.of("", "-wal"))
            if (Files.exists(Path.of(file + end))) sum += Files.size(Path.of(file + end));
        return sum;
    }

    @Override public synchronized void close() {
        try {
            if (connection != null) connection.close();
        } catch (SQLException e) {
            log().warn("closing the catalogue: {}", e.getMessage());
        }
        connection = null;
    }
}
