package ablecrate.cli;

import ablecrate.change.Told;
import ablecrate.relink.OtherDocument;
import ablecrate.relink.Renames;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(name = "relink", mixinStandardHelpOptions = true, description = {
    "Puts the names of converted files into documents of other programs: text, XML or JSON, also compressed with gzip.",
    "Only names and paths are replaced. What else a document says of a file, such as its size or its rate, stays as it is.",
    "The documents as they were come back with 'ablecrate restore' on their folder. Exit 1 if a document names nothing, or a place was left."}) final class RelinkCommand
            implements
                Callable<Integer> {
    @Spec private CommandSpec spec;
    @Parameters(paramLabel = "DOCUMENT", arity = "1..*", description = "The documents.") private List<Path> documents;
    @Option(names = "--slip", required = true, paramLabel = "DIR", description = "The folder that was packed into; its slip says what became of each file.") private Path packed;
    @Option(names = "--dry-run", description = "Tell the places; nothing is written.") private boolean dryRun;

    @Override public Integer call() throws Exception {
        PrintWriter out = spec.commandLine().getOut(), err = spec.commandLine().getErr();
        Renames renames = Renames.of(packed);
        boolean isAllDone = true;
        for (Path document : documents)
            try {
                OtherDocument read = OtherDocument.read(document);
                List<OtherDocument.Place> places = dryRun ? read.places(renames) : read.relink(renames, Instant.now());
                for (OtherDocument.Place place : places)
                    out.println(document + ", line " + place.line() + ": " + place.before()
                            + place.why().map(w -> ": left, " + w).orElseGet(() -> " → " + place.after()));
                long replaced = places.stream().filter(p -> p.why().isEmpty()).count();
                out.println(document + ": " + (places.isEmpty()
                        ? "names none of the files that were converted"
                        : Told.count(replaced, "place") + (dryRun ? " to replace" : " replaced")
                                + (replaced < places.size() ? ", " + (places.size() - replaced) + " left" : "")));
                isAllDone &= !places.isEmpty() && replaced == places.size();
            } catch (OtherDocument.RefusedException e) {
                err.println("ablecrate: " + document + ": " + e.getMessage());
                isAllDone = false;
            }
        return isAllDone ? Main.ALL_PACKED : Main.SOME_LEFT;
    }
}
