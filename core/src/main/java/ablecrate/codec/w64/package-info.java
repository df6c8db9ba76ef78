/// W64, as some recorders write it. Read only; what it holds becomes WAV.
package ablecrate.codec.w64;
