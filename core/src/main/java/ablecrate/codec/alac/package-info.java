/// ALAC, which MPEG-4 files and CAF hold; no library at hand decodes it.
package ablecrate.codec.alac;
