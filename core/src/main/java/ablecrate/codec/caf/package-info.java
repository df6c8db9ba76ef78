/// CAF with plain samples or ALAC. Read only; its regions and markers are known by name and size.
///
/// Source: Apple, *Core Audio Format Specification 1.0* (2005), from memory; checked against files that libsndfile wrote.
package ablecrate.codec.caf;
