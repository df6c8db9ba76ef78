package ablecrate.cli;

import ablecrate.library.Catalogue;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

@Command(name = "catalogue", mixinStandardHelpOptions = true, description = "What is kept of files between runs: where, and how much; 'clear' forgets it.", subcommands = CatalogueCommand.Clear.class) final class CatalogueCommand
        implements
            Callable<Integer> {
    @Spec private CommandSpec spec;

    @Override public Integer call() throws Exception {
        try (Catalogue catalogue = Catalogue.ofUser()) {
            spec.commandLine().getOut().printf(Locale.ROOT, "%s%n%,d files, %,d bytes%n", catalogue.file(), catalogue.files(), catalogue.bytes());
        }
        return Main.ALL_PACKED;
    }

    @Command(name = "clear", mixinStandardHelpOptions = true, description = "Forgets everything; files are looked at anew.") static final class Clear
            implements
                Callable<Integer> {
        @Override public Integer call() {
            try (Catalogue catalogue = Catalogue.ofUser()) {
                catalogue.clear();
            }
            return Main.ALL_PACKED;
        }
    }
}
