/// Hearing the chosen sound, as it is or as it will be.
package ablecrate.desktop.hearing;
