package ablecrate.desktop.join;

import ablecrate.codec.AudioPlace;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.library.Gathered;
import ablecrate.option.Joining;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// Which of the joined sounds comes first, by hand. FX thread only.
public final class JoinOrderModel {
    private final CrateModel crate;
    private final ObservableList<String> files = FXCollections.observableArrayList();
    private final ReadOnlyBooleanWrapper byHand = new ReadOnlyBooleanWrapper();

    public JoinOrderModel(CrateModel crate) {
        this.crate = crate;
        crate.onList(this::renew);
        renew();
    }

    /// Paths below what was gathered, in the order in which they are joined; empty where nothing is.
    public ObservableList<String> files() { return files; }

    private void renew() {
        Joining joining = crate.job().options().placing().joining();
        byHand.set(!joining.first().isEmpty());
        if (!joining.isWanted()) {
            files.clear();
            return;
        }
        Map<Path, String> names = crate.gathered().stream()
                .collect(Collectors.toMap(Gathered::path, g -> g.relative().toString().replace('\\', '/'), (a, _) -> a));
        List<String> now = crate.listProperty().get().items().stream().flatMap(i -> i.source().sound().stream()).map(SoundFile::audio)
                .filter(AudioPlace.Joined.class::isInstance).flatMap(a -> ((AudioPlace.Joined) a).pieces().stream())
                .map(p -> names.getOrDefault(p.file().path(), p.file().path().getFileName().toString())).toList();
        // While a list is made anew, what was moved stays where it is seen.
        if (!now.isEmpty() && !now.equals(files)) files.setAll(now);
    }

    /// Moves a sound by some places, as far as there are any.
    /// @return where it is now
    public int move(int place, int by) {
        int to = Math.clamp((long) place + by, 0, files.size() - 1);
        if (place < 0 || to == place) return place;
        List<String> order = new ArrayList<>(files);
        Collections.rotate(order.subList(Math.min(place, to), Math.max(place, to) + 1), place < to ? -1 : 1);
        files.setAll(order);
        take(order, "order of joined sounds");
        return to;
    }

    /// As the order of all says.
    public void asBefore() { take(List.of(), "order of joined sounds as it was"); }

    /// Whether the order is the user's.
    public ReadOnlyBooleanProperty byHandProperty() { return byHand.getReadOnlyProperty(); }

    private void take(List<String> first, String label) {
        crate.changeOptions(o -> o.withPlacing(o.placing().withJoining(o.placing().joining().withFirst(first))), label);
    }
}
