/// Stand-ins for devices: each loads a card as such a machine would, says what it refuses and why, and plays it. They are written from the descriptions in
/// `docs/devices/` alone and know nothing of what writes cards, so that what they accept proves something.
package ablecrate.standins;
