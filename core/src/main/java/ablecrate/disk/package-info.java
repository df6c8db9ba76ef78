/// Writing files so that each is the old one or the new one, whatever happens meanwhile.
package ablecrate.disk;
