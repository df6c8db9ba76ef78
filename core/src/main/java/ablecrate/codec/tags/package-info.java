/// Texts about sounds that several containers hold in the same way.
package ablecrate.codec.tags;
