/// Playing instruments as their zones say: loops, envelopes, filters, layers, round robins. For hearing, and for holding other players' renderings
/// against ours; packing does not need it.
package ablecrate.play;
