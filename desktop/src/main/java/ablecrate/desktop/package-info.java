/// The window. One folder a view: a model (properties and commands, no scene) and a view (nodes, bindings, keys; decides nothing about sounds).
/// Wired by constructors in [ablecrate.desktop.AppWindow].
package ablecrate.desktop;
