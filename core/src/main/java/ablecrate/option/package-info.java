/// What a user may choose, each option said once: its name, its words, its values and their bounds, where it holds. The command line and its help, the form in
/// the window and the page of options follow from here.
package ablecrate.option;
