package ablecrate.desktop.library;

import java.io.IOException;
import java.nio.file.ClosedWatchServiceException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.StandardWatchEventKinds;
import java.nio.file.WatchEvent;
import java.nio.file.WatchKey;
import java.nio.file.WatchService;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import org.slf4j.LoggerFactory;

/// Tells of files that land in a folder or below it, once they do not grow any more. It has a thread of its own.
final class FolderWatch implements AutoCloseable {
    /// So long a file has to stay as it is before it counts as whole.
    private static final long QUIET_MS = 700;
    /// More folders than these are not watched: systems give out so many watches, and others want some.
    private static final int MOST_FOLDERS = 4_000;

    private final WatchService service;
    private final Consumer<List<Path>> landed;
    private final Set<Path> folders = new HashSet<>();
    /// Files that are coming, with the length that they had last.
    private final Map<Path, Long> coming = new HashMap<>();

    /// @param landed told of files, in that thread
    FolderWatch(Path folder, Consumer<List<Path>> landed) throws IOException {
        this.landed = landed;
        service = folder.getFileSystem().newWatchService();
        try {
            register(folder, false);
        } catch (IOException e) {
            service.close();
            throw e;
        }
        Thread.ofPlatform().daemon().name("watching " + folder).start(this::watch);
    }

    /// @param isNew whether what lies in it has just landed as well
    private void register(Path folder, boolean isNew) throws IOException {
        Files.walkFileTree(folder, new SimpleFileVisitor<>() {
            @Override public FileVisitResult preVisitDirectory(Path at, BasicFileAttributes attributes) throws IOException {
                if (folders.size() >= MOST_FOLDERS) return FileVisitResult.SKIP_SUBTREE;
                if (folders.add(at)) at.register(service, StandardWatchEventKinds.ENTRY_CREATE, StandardWatchEventKinds.ENTRY_MODIFY);
                return FileVisitResult.CONTINUE;
            }

            @Override public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                if (isNew) coming.put(file, -1L);
                return FileVisitResult.CONTINUE;
            }

            @Override public FileVisitResult visitFileFailed(Path file, IOException e) { return FileVisitResult.CONTINUE; }
        });
    }

    private void watch() {
        try {
            while (true) {
                WatchKey key = coming.isEmpty() ? service.take() : service.poll(QUIET_MS, TimeUnit.MILLISECONDS);
                if (key == null)
                    settle();
                else {
                    for (WatchEvent<?> event : key.pollEvents())
                        if (event.context() instanceof Path name)
                            came(((Path) key.watchable()).resolve(name), event.kind() == StandardWatchEventKinds.ENTRY_CREATE);
                    key.reset();
                }
            }
        } catch (ClosedWatchServiceException e) {
            // Nobody watches any more.
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void came(Path path, boolean isNew) {
        try {
            // What changes and was there before has not landed.
            if (!isNew && !coming.containsKey(path)) return;
            if (Files.isDirectory(path)) {
                if (!folders.contains(path)) register(path, true);
            } else
                coming.put(path, -1L);
        } catch (IOException e) {
            LoggerFactory.getLogger(FolderWatch.class).warn("{} cannot be watched: {}", path, e.getMessage());
        }
    }

    /// Those that are as long as they were a while ago are there.
    private void settle() {
        List<Path> whole = new ArrayList<>();
        for (Map.Entry<Path, Long> file : List.copyOf(coming.entrySet()))
            try {
                long length = Files.size(file.getKey());
                if (length > 0 && length == file.getValue()) {
                    whole.add(file.getKey());
                    coming.remove(file.getKey());
                } else
                    coming.put(file.getKey(), length);
                // What stays empty is nothing that lands.
                if (length == 0 && file.getValue() == 0) coming.remove(file.getKey());
            } catch (IOException e) {
                coming.remove(file.getKey());
            }
        if (!whole.isEmpty()) landed.accept(whole);
    }

    @Override public void close() throws IOException { service.close(); }
}
