package ablecrate.fuzz;

import ablecrate.disk.Checksums;
import ablecrate.disk.SafeFile;
import ablecrate.pack.Originals;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/// Packs the demo crate again and again, kills the program at random moments, or lets the disk fill up at a random byte, and looks at what is left: no source
/// differs, originals come back byte for byte and with their times, and the next run ends as if nothing had been.
final class Interruptions {
    private static final List<String> KINDS = List.of("plain", "in place", "mirror", "bank", "catalogue");
    private static final int SECONDS = 120;

    private final Path launcher, work, crate, home;
    private final Map<String, Map<String, String>> whole = new TreeMap<>();
    private final List<String> faults = new ArrayList<>();
    private int killed, finished, full;

    /// @param work where sources and results lie
    private Interruptions(Path launcher, Path work) {
        this.launcher = launcher;
        this.work = work;
        crate = work.resolve("crate");
        home = work.resolve("home");
    }

    private List<String> arguments(String kind) {
        String out = work.resolve("out").toString(), from = crate.toString();
        return switch (kind) {
            case "in place" -> List.of("pack", from, "--for", "files", "--rate", "48000", "--in-place", "--quiet");
            case "mirror" -> List.of("pack", from, "--for", "files", "--rate", "32000", "--mirror", "--into", out, "--existing", "update", "--quiet");
            case "bank" -> List.of("pack", from, "--for", "files", "--container", "sf2", "--into", out, "--existing", "update", "--quiet");
            default -> List.of("pack", from, "--for", "session", "--into", out, "--existing", "update", "--quiet");
        };
    }

    private Process start(List<String> arguments) throws IOException { return start(arguments, Map.of()); }

    private Process start(List<String> arguments, Map<String, String> environment) throws IOException {
        List<String> command = new ArrayList<>(List.of(launcher.toString()));
        command.addAll(arguments);
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true)
                .redirectOutput(logFile().toFile());
        builder.environment().put("XDG_CACHE_HOME", home.toString());
        builder.environment().put("XDG_CONFIG_HOME", home.toString());
        builder.environment().putAll(environment);
        return builder.start();
    }

    private int run(List<String> arguments) throws IOException, InterruptedException {
        Process process = start(arguments);
        if (!process.waitFor(SECONDS, TimeUnit.SECONDS)) {
            process.destroyForcibly();
            throw new IOException("does not end: " + arguments);
        }
        return process.exitValue();
    }

    /// `[path]`: sum and time of each file; slips and lists of originals left out, as they tell of one run.
    private static Map<String, String> tree(Path folder, boolean withTimes) throws IOException {
        Map<String, String> tree = new TreeMap<>();
        if (Files.exists(folder)) try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.filter(Files::isRegularFile).toList())
                if (!file.getFileName().toString().startsWith("packing-slip.") && !file.getFileName().toString().equals(Originals.LIST))
                    tree.put(folder.relativize(file).toString(),
                            Checksums.xxh128Hex(file) + (withTimes ? " " + Files.getLastModifiedTime(file).toMillis() : ""));
        }
        return tree;
    }

    private static void copy(Path from, Path to) throws IOException {
        try (Stream<Path> files = Files.walk(from)) {
            for (Path file : files.toList()) {
                Path target = to.resolve(from.relativize(file).toString());
                if (Files.isDirectory(file))
                    Files.createDirectories(target);
                else
                    Files.copy(file, target, StandardCopyOption.COPY_ATTRIBUTES, StandardCopyOption.REPLACE_EXISTING);
            }
        }
    }

    private void check(boolean isRight, String what) { if (!isRight) faults.add(what); }

    /// What is left after a run that was stopped: sources as they were, and the next run ends well.
    private void checkAfter(String kind, String what, Map<String, String> before) throws IOException, InterruptedException {
        if (kind.equals("in place")) {
            List<Path> dated;
            try (Stream<Path> inside = Files.list(crate)) {
                dated = inside.filter(p -> Files.exists(p.resolve(Originals.LIST))).toList();
            }
            for (Path folder : dated)
                check(run(List.of("restore", folder.toString())) == 0, what + ": restore failed: " + log());
            Map<String, String> after = tree(crate, true);
            after.keySet().removeIf(f -> SafeFile.isPart(Path.of(f)) || f.startsWith(".ablecrate"));
            check(after.equals(before), what + ": originals differ: " + differences(before, after));
            return;
        }
        check(tree(crate, true).equals(before), what + ": sources differ: " + differences(before, tree(crate, true)));
        int exit = run(arguments(kind));
        check(exit <= 1, what + ": the next run ends with " + exit + ": " + log());
        Map<String, String> after = tree(work.resolve("out"), false);
        check(after.equals(whole.get(kind)), what + ": the next run differs: " + differences(whole.get(kind), after));
    }

    /// What the latest run said; not on a disk that fills up.
    private Path logFile() { return Path.of(System.getProperty("java.io.tmpdir"), work.getFileName() + ".log"); }

    private String log() throws IOException {
        String text = Files.readString(logFile());
        return text.substring(Math.max(0, text.length() - 400)).strip();
    }

    private static String differences(Map<String, String> a, Map<String, String> b) {
        TreeMap<String, String> different = new TreeMap<>();
        a.forEach((k, v) -> {
            if (!v.equals(b.get(k))) different.put(k, b.containsKey(k) ? "changed" : "gone");
        });
        b.forEach((k, _) -> {
            if (!a.containsKey(k)) different.put(k, "new");
        });
        return different.size() + " files, " + different.entrySet().stream().limit(3).toList();
    }

    private void prepare(Path demo) throws IOException {
        Fuzzing.clear(work);
        copy(demo, crate);
    }

    private void killOnce(String kind, Random random, long usualMs, Path demo) throws IOException, InterruptedException {
        prepare(demo);
        Map<String, String> before = tree(crate, true);
        Process process = start(arguments(kind));
        if (process.waitFor(random.nextLong(Math.max(1, usualMs)), TimeUnit.MILLISECONDS))
            finished++;
        else
            killed++;
        process.descendants().forEach(ProcessHandle::destroyForcibly);
        process.destroyForcibly().waitFor();
        checkAfter(kind, kind + " killed", before);
    }

    /// Packs while the disk fills up at a random byte, looks, and packs again with room.
    private void fillOnce(String kind, Random random, long needed, Path library, Path demo) throws IOException, InterruptedException {
        prepare(demo);
        Map<String, String> before = tree(crate, true);
        Files.deleteIfExists(flag());
        long bytes = random.nextLong(needed);
        Process process = start(arguments(kind), faults(library, "fill", bytes));
        if (!process.waitFor(SECONDS, TimeUnit.SECONDS)) faults.add(kind + " on a full disk does not end");
        process.destroyForcibly().waitFor();
        if (Files.exists(flag())) {
            full++;
            // What could not be kept of the catalogue is no loss.
            check(process.exitValue() != 0 || kind.equals("in place") || tree(work.resolve("out"), false).equals(whole.get(kind)),
                    kind + ", full after " + bytes + " bytes: nothing is told: " + log());
        } else {
            finished++;
        }
        checkAfter(kind, kind + ", full after " + bytes + " bytes", before);
    }

    private Path flag() { return work.resolveSibling(work.getFileName() + ".hit"); }

    private Map<String, String> faults(Path library, String kind, long at) throws IOException {
        return Map.of("LD_PRELOAD", library.toString(), "FAULT_UNDER", work.toRealPath() + "/", "FAULT_AT", "" + at, "FAULT_KIND", kind, "FAULT_FLAG",
                flag().toString());
    }

    private static void keepFew(Path demo) throws IOException {
        try (Stream<Path> files = Files.walk(demo)) {
            List<Path> sounds = files.filter(f -> f.toString().endsWith(".wav")).sorted().toList();
            List<Path> kept = List.of(sounds.getFirst(), sounds.get(sounds.size() / 2), sounds.getLast());
            try (Stream<Path> again = Files.walk(demo)) {
                for (Path file : again.filter(Files::isRegularFile).filter(f -> !kept.contains(f)).toList())
                    Files.delete(file);
            }
        }
    }

    /// The operation on the disk at which the program is ended, or which fails, the first, the second, and so on until a run needs no more.
    private void everyOperation(String kind, String way, Path library, Path demo) throws IOException, InterruptedException {
        for (int at = 1;; at++) {
            prepare(demo);
            Map<String, String> before = tree(crate, true);
            Files.deleteIfExists(flag());
            Process process = start(arguments(kind), faults(library, way, at));
            process.waitFor(SECONDS, TimeUnit.SECONDS);
            process.destroyForcibly().waitFor();
            if (!Files.exists(flag())) {
                System.out.printf("%s, %s: %,d operations%n", kind, way, at - 1);
                return;
            }
            killed++;
            checkAfter(kind, kind + ", " + way + " at operation " + at, before);
        }
    }

    /// Bytes that a run writes, found by asking where the disk would be full.
    private long written(String kind, Path library, Path demo) throws IOException, InterruptedException {
        for (long bytes = 1 << 20;; bytes *= 2) {
            prepare(demo);
            Files.deleteIfExists(flag());
            Process process = start(arguments(kind), faults(library, "fill", bytes));
            process.waitFor(SECONDS, TimeUnit.SECONDS);
            process.destroyForcibly().waitFor();
            if (!Files.exists(flag())) return bytes;
        }
    }

    /// @param args `kills`, `full` or `operations`, how often, the start script, and for the latter two the library that has the disk fail
    public static void main(String[] args) throws Exception {
        String how = args[0];
        int count = Integer.parseInt(args[1]);
        Path work = Path.of(System.getProperty("java.io.tmpdir"), "ablecrate-interruptions"), demo = Files.createTempDirectory("ablecrate-demo");
        Interruptions all = new Interruptions(Path.of(args[2]).toAbsolutePath(), work);
        Files.createDirectories(work);
        all.run(List.of("demo", "--crate", demo.toString()));
        // What is left is of every kind, and packed in a second or two.
        for (String large : List.of("Atmospheres", "Glass Marimba", "Tin Kitchen"))
            try (Stream<Path> folders = Files.find(demo, 2, (p, _) -> p.endsWith(large))) {
                for (Path folder : folders.toList())
                    Fuzzing.clear(folder);
            }
        // Each operation is a run of its own: three sounds are enough.
        if (how.equals("operations")) keepFew(demo);
        Map<String, Long> usualMs = new TreeMap<>(), needed = new TreeMap<>();
        for (String kind : KINDS) {
            all.prepare(demo);
            long start = System.nanoTime();
            all.run(all.arguments(kind));
            usualMs.put(kind, (System.nanoTime() - start) / 1_000_000);
            all.whole.put(kind, tree(work.resolve("out"), false));
        }
        Random random = new Random(count);
        switch (how) {
            case "operations" -> {
                for (String kind : List.of("in place", "plain"))
                    for (String way : List.of("kill", "fail"))
                        all.everyOperation(kind, way, library(args), demo);
            }
            case "full" -> {
                for (String kind : KINDS)
                    needed.put(kind, all.written(kind, library(args), demo));
                for (int i = 0; i < count; i++) {
                    String kind = KINDS.get(i % KINDS.size());
                    all.fillOnce(kind, random, needed.get(kind), library(args), demo);
                    all.told(i + 1, count);
                }
            }
            default -> {
                for (int i = 0; i < count; i++) {
                    String kind = KINDS.get(i % KINDS.size());
                    all.killOnce(kind, random, usualMs.get(kind), demo);
                    all.told(i + 1, count);
                }
            }
        }
        all.faults.forEach(System.out::println);
        System.out.printf("%,d killed, %,d done before that, %,d that met a full disk; %,d faults%n", all.killed, all.finished, all.full,
                all.faults.size());
        Fuzzing.clear(work);
        Fuzzing.clear(demo);
        System.exit(all.faults.isEmpty() ? 0 : 1);
    }

    private static Path library(String[] args) { return Path.of(args[3]).toAbsolutePath(); }

    private void told(int runs, int of) {
        if (runs % 50 == 0) System.out.printf("%,d of %,d runs, %,d faults%n", runs, of, faults.size());
    }
}
