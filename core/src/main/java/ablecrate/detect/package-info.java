/// What is found by listening to sounds: places to loop, onsets, tempo. Knows nothing of files and formats.
package ablecrate.detect;
