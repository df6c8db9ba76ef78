package ablecrate.job;

import ablecrate.disk.SafeFile;
import ablecrate.disk.UserFolders;
import ablecrate.json.Json;
import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.slf4j.LoggerFactory;

/// Keeps the job that is open as it changes, so that after a crash or a power cut the next start can offer it. Safe for threads.
///
/// Each window has a file of its own, and beside it one that it holds locked for as long as it lives: what lies there unlocked was left by one that did not
/// end as it should.
public final class Recovery implements Closeable {
    private static final int MOST_WINDOWS = 64;

    private final List<Slot> slots = new ArrayList<>();
    private final Slot own;

    /// @param savedAs the job's own file, if it has one
    /// @param changedAt when it was last kept
    public record Left(Path kept, Job job, Optional<Path> savedAs, Instant changedAt) {}

    /// As it lies on the disk.
    private record Kept(Optional<String> savedAs, JobFile job) {}

    private record Slot(Path kept, FileChannel lock) {
        boolean isEmpty() { return !Files.exists(kept); }
    }

    private Recovery(List<Slot> held, Slot own) {
        slots.addAll(held);
        this.own = own;
    }

    /// In the user's folder.
    public static Recovery ofUser() throws IOException { return begin(UserFolders.settings().resolve("unsaved")); }

    /// Takes a place of its own, and what others left.
    public static Recovery begin(Path folder) throws IOException {
        Files.createDirectories(folder);
        List<Slot> held = new ArrayList<>();
        for (int n = 1; n <= MOST_WINDOWS; n++) {
            Optional<Slot> slot = take(folder.resolve("open-" + n + Jobs.EXTENSION), folder.resolve("open-" + n + ".lock"));
            slot.ifPresent(held::add);
            if (slot.isPresent() && slot.get().isEmpty()) return new Recovery(held, slot.get());
        }
        for (Slot slot : held)
            slot.lock().close();
        throw new IOException("more than " + MOST_WINDOWS + " windows, or jobs that were left unsaved; see " + folder);
    }

    private static Optional<Slot> take(Path kept, Path lock) throws IOException {
        FileChannel channel = FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        try {
            if (channel.tryLock() != null) return Optional.of(new Slot(kept, channel));
        } catch (OverlappingFileLockException e) {
            // Another window of this process.
        }
        channel.close();
        return Optional.empty();
    }

    /// What others left, the latest first; a file that cannot be read any more is passed over.
    public synchronized List<Left> left() {
        List<Left> left = new ArrayList<>();
        for (Slot slot : slots)
            if (slot != own && !slot.isEmpty())
                try {
                    Kept kept = Json.read(slot.kept(), Kept.class);
                    left.add(new Left(slot.kept(), kept.job().job(slot.kept().toString(), NOWHERE), kept.savedAs().map(Path::of),
                            Files.getLastModifiedTime(slot.kept()).toInstant()));
                } catch (IOException | Json.JsonFault e) {
                    LoggerFactory.getLogger(Recovery.class).warn("a job that was left cannot be read: {}", e.getMessage());
                }
        left.sort((a, b) -> b.changedAt().compareTo(a.changedAt()));
        return left;
    }

    private static final JobPaths NOWHERE = new JobPaths(Optional.empty());

    /// What is open has changed.
    public synchronized void keep(Job job, Optional<Path> savedAs) throws IOException {
        SafeFile.write(own.kept(), Json.write(new Kept(savedAs.map(Path::toString), JobFile.of(job, NOWHERE))));
    }

    /// What is open is saved, or nobody wants it any more.
    public synchronized void forget() throws IOException { Files.deleteIfExists(own.kept()); }

    /// What was left is open here now, or nobody wants it.
    public synchronized void forget(Left left) throws IOException { Files.deleteIfExists(left.kept()); }

    /// What was left and not taken is there for the next start.
    @Override public synchronized void close() throws IOException {
        for (Slot slot : slots)
            slot.lock().close();
    }
}
