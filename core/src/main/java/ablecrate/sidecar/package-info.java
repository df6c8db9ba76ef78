/// Small files that lie beside sounds and say when they play, or where they lie in a longer one. Each writes itself, and reads itself again as another
/// program would.
package ablecrate.sidecar;
