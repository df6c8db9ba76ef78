package ablecrate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Round robins and release samples are heard where a fit is judged, so that neither goes for nothing.
class OccasionTest {
    private static final Span ALL = new Span(1, 127);

    @TempDir Path folder;

    /// Three turns on each of two keys; the second is the one between the other two in colour, so it stands in for them best.
    /// @param apart how far they are from each other in colour
    private MadeInstrument turns(double apart) throws Exception {
        MadeInstrument made = new MadeInstrument(folder);
        for (int key : new int[]{48, 60})
            for (int turn = 1; turn <= 3; turn++)
                made.zone(new Span(key, key + 11), ALL, key, MadeInstrument.tone(key, (key == 48 ? -13 : -6) + apart * (turn - 2), 1000, 2, 0.05))
                        .last(Parameter.TURN, new Turn(turn, 3));
        return made;
    }

    private static Fit.Fitted one(FitTask task) throws Exception { return MadeInstrument.fit(task).instruments().getFirst(); }

    @Test void theTurnThatIsMostLikeTheOthersStays() throws Exception {
        Fit.Fitted fitted = one(turns(4).task(MadeInstrument.limits(0, 2, 0, 0)));
        assertThat(fitted.fits()).as(fitted.lacking()).isTrue();
        assertThat(fitted.after().zones()).extracting(Zone::sample).containsExactlyInAnyOrder(1, 4);
        assertThat(fitted.after().zones()).allSatisfy(z -> assertThat(z.get(Parameter.TURN)).isEqualTo(Turn.EVERY));
        assertThat(fitted.steps()).singleElement().satisfies(s -> {
            assertThat(s.kind()).isEqualTo(FitStep.Kind.TURNS);
            assertThat(s.before()).isEqualTo(3);
            assertThat(s.after()).isEqualTo(1);
            assertThat(s.harmDb()).as("two turns of three are not what they were").isGreaterThan(0.5);
        });
    }

    /// A device that plays fewer turns than there are gets the ones that stand in for the others best, also where there is room for all.
    @Test void turnsThatTheDeviceDoesNotPlayAreStoodInForByTheBest() throws Exception {
        DeviceLimits plays = new DeviceLimits(0, 0, 0, 0, List.of(), new DeviceLimits.Playing(List.of(), 1), 0, 0, 0);
        MadeInstrument made = turns(4);
        FitTask task = made.task(plays);
        assertThat(task.isOver()).isTrue();
        assertThat(one(task).after().zones()).extracting(Zone::sample).containsExactlyInAnyOrder(1, 4);
        double harmDb = one(task).harm().meanDb();
        assertThat(harmDb).as("what the other turns were is heard").isGreaterThan(0.5);
        DeviceLimits small = plays.withInstrumentBytes(made.task(DeviceLimits.NONE).bytesOfAll() / 4);
        assertThat(MadeInstrument.fit(made.task(small)).curve().getLast().harmDb()).as("with all the memory there could be").isCloseTo(harmDb, within(0.01));
    }

    /// Two turns fit, and are so much like the third that no root has to go: so many stay, and follow each other.
    @Test void asManyTurnsStayAsFit() throws Exception {
        Fit.Fitted fitted = one(turns(1).task(MadeInstrument.limits(0, 4, 0, 0)));
        assertThat(FitTask.samples(fitted.after())).hasSize(4);
        assertThat(fitted.after().zones()).extracting(z -> z.get(Parameter.TURN)).containsExactlyInAnyOrder(new Turn(1, 2), new Turn(2, 2), new Turn(1, 2),
                new Turn(2, 2));
        Fit.Fitted none = one(turns(1).task(MadeInstrument.limits(0, 2, 0, 0), FitStep.Kind.TURNS));
        assertThat(none.steps()).extracting(FitStep::kind).doesNotContain(FitStep.Kind.TURNS);
    }

    /// Memory is taken from later turns as from the first: what they lose is heard.
    @Test void memoryIsNotTakenFromTurnsThatNobodyListensTo() throws Exception {
        MadeInstrument made = turns(4);
        long bytes = made.task(DeviceLimits.NONE).bytesOfAll();
        Fit fit = MadeInstrument.fit(made.task(MadeInstrument.limits(0, 0, 0, bytes * 2 / 3), FitStep.Kind.TURNS, FitStep.Kind.TAILS, FitStep.Kind.ROOTS));
        Fit.Fitted fitted = fit.instruments().getFirst();
        assertThat(fitted.fits()).as(fitted.lacking()).isTrue();
        assertThat(fitted.harm().meanDb()).as("the brightest turns lost their highs").isGreaterThan(0);
        long turned = FitTask.samples(fitted.after()).stream().filter(s -> s % 3 > 0 && fit.sizes().get(s).rateHz() < MadeInstrument.RATE).count();
        assertThat(turned).as("of four sounds of later turns").isLessThan(4);
    }

    @Test void releaseSamplesMayGoAndAreHeard() throws Exception {
        MadeInstrument made = new MadeInstrument(folder);
        for (int i = 0; i < 4; i++) {
            int key = 48 + 6 * i;
            Span keys = new Span(key, key + 5);
            made.zone(keys, ALL, key, MadeInstrument.tone(key, i % 2 == 0 ? -14 : -4, 1000, 2, 0.1));
            made.zone(keys, ALL, key, MadeInstrument.tone(key, -8, 1000, 0.3, 0.01)).last(Parameter.TRIGGER, Trigger.RELEASE);
        }
        Fit.Fitted fitted = one(made.task(MadeInstrument.limits(0, 4, 0, 0)));
        assertThat(fitted.fits()).as(fitted.lacking()).isTrue();
        assertThat(fitted.after().zones().stream().filter(z -> z.get(Parameter.TRIGGER) == Trigger.ATTACK).map(Zone::sample)).hasSizeGreaterThanOrEqualTo(3);
        assertThat(fitted.steps()).extracting(FitStep::kind).contains(FitStep.Kind.RELEASES);
        assertThat(fitted.steps().stream().mapToDouble(FitStep::harmDb).sum()).isCloseTo(fitted.harm().meanDb(), within(1e-9));
        Fit.Fitted kept = one(made.task(MadeInstrument.limits(0, 7, 0, 0), FitStep.Kind.RELEASES));
        assertThat(kept.after().zones().stream().filter(z -> z.get(Parameter.TRIGGER) == Trigger.RELEASE).map(Zone::sample).distinct()).hasSize(4);
    }
}
