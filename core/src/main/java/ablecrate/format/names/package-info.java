/// Maps from file names: what the names of a set have in common tells where key, velocity, turn and side stand in each.
///
/// Rules: common practice of naming samples; none of it is a standard.
package ablecrate.format.names;
