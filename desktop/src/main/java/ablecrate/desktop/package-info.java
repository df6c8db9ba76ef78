/// The window. One folder a view: a model (properties and commands, no scene) and a view (nodes, bindings, keys; decides nothing about sounds).
/// Models are wired by constructors in `Models`, views in `Views`; [ablecrate.desktop.AppWindow] lays them out.
package ablecrate.desktop;
