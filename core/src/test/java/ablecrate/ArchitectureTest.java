package ablecrate;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.util.List;

/// Data flows one way: read → model → plan → pack.
@AnalyzeClasses(packages = "ablecrate", importOptions = DoNotIncludeTests.class) class ArchitectureTest {
    /// From what is known of nothing else to what sees it all; an arrow back does not compile past this.
    private static final List<String> FLOW = List.of("work", "audio", "instrument", "play", "dsp", "detect", "codec", "format", "session", "destination",
            "dump",
            "library",
            "signal",
            "fit",
            "option",
            "sidecar",
            "change", "plan",
            "verify", "pack", "relink");

    @ArchTest static void dataFlowsOneWay(JavaClasses classes) {
        for (int i = 0; i < FLOW.size(); i++) {
            String[] later = FLOW.subList(i + 1, FLOW.size()).stream().map(p -> "ablecrate." + p + "..").toArray(String[]::new);
            if (later.length > 0)
                noClasses().that().resideInAPackage("ablecrate." + FLOW.get(i) + "..").should().dependOnClassesThat().resideInAnyPackage(later).check(classes);
        }
        noClasses().that().resideInAPackage("ablecrate.dsp..").should().dependOnClassesThat().resideInAnyPackage("ablecrate.instrument..").check(classes);
    }

    /// What is carried out and checked is the list, however it came about.
    @ArchTest static final ArchRule packingDoesNotKnowThePlanner = noClasses().that().resideInAnyPackage("ablecrate.pack..", "ablecrate.verify..").should()
            .dependOnClassesThat().resideInAPackage("ablecrate.planner..");

    @ArchTest static final ArchRule theCoreHasNoInterfaceCode = noClasses().should().dependOnClassesThat().resideInAnyPackage("javafx..", "javax.swing..",
            "java.awt..", "picocli..");

    @ArchTest static final ArchRule formatsDoNotKnowEachOther = slices().matching("ablecrate.codec.(wav|aiff|flac|ogg|mpeg|mp4|caf|w64|sds)..").should()
            .notDependOnEachOther();

    @ArchTest static final ArchRule instrumentFormatsDoNotKnowEachOther = slices().matching("ablecrate.format.(sfz|sf2|dls|program|names)..").should()
            .notDependOnEachOther();

    @ArchTest static final ArchRule noPackageCycles = slices()
            .matching(
                    "ablecrate.(work|audio|instrument|play|dsp|detect|dump|destination|library|signal|fit|option|sidecar|change|plan|planner|verify|pack|relink|session|job|json|disk)..")
            .should().beFreeOfCycles();
}
