package ablecrate.desktop.presets;

import ablecrate.desktop.crate.CrateModel;
import ablecrate.disk.DiskFault;
import ablecrate.job.Presets;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// The user's presets: used, saved, renamed, deleted. FX thread only; the files are small.
public final class PresetsModel {
    private final CrateModel crate;
    private final Presets presets;
    private final ObservableList<String> names = FXCollections.observableArrayList();
    private final ReadOnlyStringWrapper told = new ReadOnlyStringWrapper("");

    public PresetsModel(CrateModel crate, Presets presets) {
        this.crate = crate;
        this.presets = presets;
    }

    public ObservableList<String> names() { return FXCollections.unmodifiableObservableList(names); }

    /// What was done or went wrong, in words.
    public ReadOnlyStringProperty toldProperty() { return told.getReadOnlyProperty(); }

    public void renew() { run("", () -> {}); }

    private interface Step {
        void run() throws IOException, Json.JsonFault;
    }

    private void run(String done, Step step) {
        try {
            step.run();
            told.set(done);
            List<String> now = presets.names();
            if (!now.equals(names)) names.setAll(now);
        } catch (FileAlreadyExistsException e) {
            told.set("there is one of that name already");
        } catch (IOException e) {
            told.set(DiskFault.text(e));
        } catch (Json.JsonFault e) {
            told.set(e.getMessage());
        }
    }

    /// Options and destination as they are now, under a name; one of that name is replaced.
    public void save(String name) {
        Optional<String> fault = Presets.fault(name.strip());
        if (fault.isPresent())
            told.set(fault.get());
        else
            run("saved: " + name.strip(), () -> presets.save(name.strip(), new Presets.Preset(crate.job().destination(), crate.job().options())));
    }

    /// Takes options and destination over, in one step that can be undone.
    public void use(String name) {
        run("", () -> {
            Presets.Preset preset = presets.find(name);
            crate.use(preset.destination(), preset.options(), "use preset " + name);
        });
    }

    public void rename(String name, String newName) {
        Optional<String> fault = Presets.fault(newName.strip());
        if (fault.isPresent())
            told.set(fault.get());
        else
            run("renamed: " + newName.strip(), () -> presets.rename(name, newName.strip()));
    }

    public void delete(String name) { run("deleted: " + name, () -> presets.delete(name)); }
}
