package ablecrate.library;

import ablecrate.disk.Checksums;
import ablecrate.disk.UserFolders;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.InflaterInputStream;

/// What was found out about files, kept between runs: a library of ten thousand opens again without being read. One SQLite file in the user's
/// caches; several programs may use it at once. Nothing depends on it: where it is missing, locked or spoilt, files are looked at again.
///
/// An entry holds for a file of this path, size and time of change; where it is asked for, also for a file of the same content that was moved, renamed
/// or copied. Safe for threads.
public final class Catalogue implements AutoCloseable {
    static final String DIGEST = "digest";
    private final CatalogueFile database;
    private volatile boolean knowsContents;

    /// @param file opened when it is first asked
    public Catalogue(Path file) { this(new CatalogueFile(file)); }

    private Catalogue(CatalogueFile database) { this.database = database; }

    /// One that keeps nothing.
    public static Catalogue none() { return new Catalogue(CatalogueFile.none()); }

    public static Catalogue ofUser() { return new Catalogue(UserFolders.caches().resolve("catalogue.sqlite")); }

    public Path file() { return database.file(); }

    /// Whether it keeps nothing and knows nothing.
    boolean isNone() { return database.isBroken(); }

    /// Whether what is dear to find out (levels, pitch, damage, pictures) is known by a file's content where its path is new. Costs reading each new
    /// file once more.
    public void knowContents(boolean isWanted) { knowsContents = isWanted; }

    /// A file as it is now.
    public record Identity(String path, long bytes, long changedMs) {
        public static Identity of(Path path) throws IOException {
            BasicFileAttributes a = Files.readAttributes(path, BasicFileAttributes.class);
            return new Identity(path.toAbsolutePath().normalize().toString(), a.size(), a.lastModifiedTime().toMillis());
        }
    }

    /// What is kept of a file.
    /// @param what the question, as `content`
    public Optional<String> find(Identity id, String what) {
        Optional<String> own = Optional.ofNullable(findAll(List.of(id), what).get(id));
        if (own.isPresent() || !knowsContents) return own;
        Optional<String> same = digest(id).flatMap(d -> ofContent(d, what));
        same.ifPresent(t -> keep(what, Map.of(id, t)));
        return same;
    }

    private Optional<String> ofContent(String digest, String what) {
        byte[] packed = database.with(null, c -> {
            try (PreparedStatement s = c
                    .prepareStatement("SELECT k.value FROM known d JOIN known k ON k.path=d.path AND k.bytes=d.bytes AND k.changed=d.changed"
                            + " WHERE d.what='" + DIGEST + "' AND d.value=? AND k.what=? LIMIT 1")) {
                s.setBytes(1, deflated(digest));
                s.setString(2, what);
                try (ResultSet r = s.executeQuery()) {
                    return r.next() ? r.getBytes(1) : null;
                }
            }
        });
        return Optional.ofNullable(packed).flatMap(Catalogue::inflated);
    }

    /// XXH128 of the file; kept as well. Empty where it cannot be read.
    private Optional<String> digest(Identity id) {
        Optional<String> kept = Optional.ofNullable(findAll(List.of(id), DIGEST).get(id));
        if (kept.isPresent()) return kept;
        try {
            String digest = Checksums.xxh128Hex(Path.of(id.path()));
            keepAll(DIGEST, Map.of(id, digest));
            return Optional.of(digest);
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    /// What is kept of many files; those of which nothing is are left out.
    public Map<Identity, String> findAll(Collection<Identity> ids, String what) {
        Map<Identity, byte[]> packed = database.with(Map.of(), c -> {
            Map<Identity, byte[]> found = new HashMap<>();
            try (PreparedStatement s = c.prepareStatement("SELECT value FROM known WHERE path=? AND what=? AND bytes=? AND changed=?")) {
                s.setString(2, what);
                for (Identity id : ids) {
                    s.setString(1, id.path());
                    s.setLong(3, id.bytes());
                    s.setLong(4, id.changedMs());
                    try (ResultSet r = s.executeQuery()) {
                        if (r.next()) found.put(id, r.getBytes(1));
                    }
                }
            }
            return found;
        });
        // Outside of the lock, and side by side.
        Map<Identity, String> texts = new ConcurrentHashMap<>();
        packed.entrySet().parallelStream().forEach(e -> inflated(e.getValue()).ifPresent(t -> texts.put(e.getKey(), t)));
        return texts;
    }

    /// Texts shrink to a tenth, and are read faster for it.
    private static byte[] deflated(String text) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (DeflaterOutputStream out = new DeflaterOutputStream(bytes)) {
            out.write(text.getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new IllegalStateException("memory does not fail so", e);
        }
        return bytes.toByteArray();
    }

    private static Optional<String> inflated(byte[] bytes) {
        try (InflaterInputStream in = new InflaterInputStream(new ByteArrayInputStream(bytes))) {
            return Optional.of(new String(in.readAllBytes(), StandardCharsets.UTF_8));
        } catch (IOException spoilt) {
            return Optional.empty();
        }
    }

    /// Keeps answers to one question, together.
    public void keep(String what, Map<Identity, String> values) {
        if (knowsContents && !what.equals(Gatherer.CONTENT)) values.keySet().forEach(this::digest);
        keepAll(what, values);
    }

    private void keepAll(String what, Map<Identity, String> values) {
        if (values.isEmpty()) return;
        together("INSERT OR REPLACE INTO known VALUES (?,?,?,?,?)", s -> {
            for (Map.Entry<Identity, String> entry : values.entrySet()) {
                s.setString(1, entry.getKey().path());
                s.setString(2, what);
                s.setLong(3, entry.getKey().bytes());
                s.setLong(4, entry.getKey().changedMs());
                s.setBytes(5, deflated(entry.getValue()));
                s.addBatch();
            }
        });
    }

    private interface Filling {
        void fill(PreparedStatement statement) throws SQLException;
    }

    /// Many rows by one statement, all or none.
    private void together(String sql, Filling rows) {
        database.with(true, c -> {
            c.setAutoCommit(false);
            try (PreparedStatement s = c.prepareStatement(sql)) {
                rows.fill(s);
                s.executeBatch();
                c.commit();
            } finally {
                c.setAutoCommit(true);
            }
            return true;
        });
    }

    /// How many files something is known of.
    public long files() {
        return database.with(0L, c -> {
            try (Statement s = c.createStatement(); ResultSet r = s.executeQuery("SELECT COUNT(DISTINCT path) FROM known")) {
                return r.getLong(1);
            }
        });
    }

    /// Forgets these files.
    public void forget(Collection<Path> paths) {
        together("DELETE FROM known WHERE path=?", s -> {
            for (Path path : paths) {
                s.setString(1, path.toAbsolutePath().normalize().toString());
                s.addBatch();
            }
        });
    }

    /// Forgets everything.
    public void clear() {
        database.with(true, c -> {
            try (Statement s = c.createStatement()) {
                s.execute("DELETE FROM known");
                s.execute("VACUUM");
            }
            return true;
        });
    }

    /// Bytes on the disk, what is being written included.
    public long bytes() throws IOException { return database.bytes(); }

    @Override public void close() { database.close(); }
}
