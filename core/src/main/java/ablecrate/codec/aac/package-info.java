/// AAC: packets, which MPEG-4 files hold, and ADTS streams of them.
package ablecrate.codec.aac;
