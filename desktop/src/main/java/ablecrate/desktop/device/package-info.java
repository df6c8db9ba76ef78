/// The device that a card is made for: what it holds of the card, and its pads or keys.
package ablecrate.desktop.device;
