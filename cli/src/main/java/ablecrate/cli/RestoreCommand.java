package ablecrate.cli;

import ablecrate.pack.Originals;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "restore", mixinStandardHelpOptions = true, description = "Brings back the originals that packing in place put aside.") final class RestoreCommand
        implements
            Callable<Integer> {
    @Spec private CommandSpec spec;
    @Parameters(paramLabel = "DIR", description = "The folder that was packed in place, or one of its dated folders.") private Path folder;

    @Option(names = "--keep-both", description = "A result that was changed since makes room under another name; without this it stays, and its original with the others.") private boolean keepBoth;

    @Override public Integer call() throws Exception {
        Originals.Restored restored = Originals.restore(folder, keepBoth);
        restored.broughtBack().forEach(p -> spec.commandLine().getOut().println("brought back " + p));
        restored.setAside().forEach(p -> spec.commandLine().getOut().println("kept as " + p));
        spec.commandLine().getOut().println(restored.broughtBack().size() + " originals brought back");
        restored.removed().forEach(p -> spec.commandLine().getOut().println("took away " + p));
        restored.problems().forEach(p -> spec.commandLine().getErr().println("ablecrate: " + p));
        return restored.problems().isEmpty() ? Main.ALL_PACKED : Main.SOME_LEFT;
    }
}
