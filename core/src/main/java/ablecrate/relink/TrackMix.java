package ablecrate.relink;

import ablecrate.audio.FrameSource;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.Decibels;
import ablecrate.session.SessionDocument;
import java.io.IOException;
import java.util.Arrays;
import java.util.IdentityHashMap;
import java.util.Iterator;
import java.util.Map;

/// A track as it sounds, from bar 1 on: its clips with gains, fades and pan, as `docs/sessions.md` has it. Files are at the session's rate.
final class TrackMix implements FrameSource {
    private final SessionDocument.Track track;
    private final Map<String, SoundFile> files;
    private final int rateHz, channels;
    private final long frames;
    /// Two clips may be alike in all, and are two.
    private final Map<SessionDocument.Clip, SeekableSource> open = new IdentityHashMap<>();
    private long position;

    /// @param files of its clips, by their paths
    /// @param frames where it ends
    TrackMix(SessionDocument.Track track, Map<String, SoundFile> files, int rateHz, long frames) {
        this.track = track;
        this.files = files;
        this.rateHz = rateHz;
        this.frames = frames;
        boolean isMono = track.panPercent() == 0
                && track.clips().stream().allMatch(c -> c.panPercent() == 0 && files.get(c.file()).channels() == 1);
        channels = isMono ? 1 : 2;
    }

    @Override public int channels() { return channels; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int wanted) throws IOException {
        int count = (int) Math.min(wanted, frames - position);
        if (count <= 0) return 0;
        for (double[] plane : planes)
            Arrays.fill(plane, at, at + count, 0);
        for (SessionDocument.Clip clip : track.clips()) {
            long first = Math.max(position, clip.startFrame()), end = Math.min(position + count, clip.endFrame());
            if (first < end && !clip.muted() && !track.muted())
                add(clip, first - clip.startFrame(), (int) (end - first), planes, at + (int) (first - position));
        }
        position += count;
        closeThoseBefore(position);
        return count;
    }

    private void add(SessionDocument.Clip clip, long into, int count, double[][] planes, int at) throws IOException {
        SeekableSource source = open.get(clip);
        if (source == null) {
            source = files.get(clip.file()).open();
            open.put(clip, source);
            source.seek(clip.offsetFrames() + into);
        }
        double[][] read = new double[source.channels()][count];
        source.readFully(read, 0, count);
        double pan = Math.clamp(track.panPercent() + clip.panPercent(), -100, 100) / 100, gain = Decibels.toFactor(track.gainDb() + clip.gainDb());
        for (int side = 0; side < channels; side++) {
            double[] from = read[Math.min(side, read.length - 1)];
            double level = gain * (channels == 1 ? 1 : Math.min(1, side == 0 ? 1 - pan : 1 + pan));
            for (int i = 0; i < count; i++)
                planes[side][at + i] += from[i] * level * fade(clip, into + i);
        }
    }

    private static double fade(SessionDocument.Clip clip, long frame) {
        double in = clip.fadeInFrames() == 0 ? 1 : Math.min(1, (double) frame / clip.fadeInFrames());
        return clip.fadeOutFrames() == 0 ? in : in * Math.min(1, (double) (clip.lengthFrames() - frame) / clip.fadeOutFrames());
    }

    private void closeThoseBefore(long frame) throws IOException {
        for (Iterator<Map.Entry<SessionDocument.Clip, SeekableSource>> all = open.entrySet().iterator(); all.hasNext();) {
            Map.Entry<SessionDocument.Clip, SeekableSource> entry = all.next();
            if (entry.getKey().endFrame() > frame) continue;
            entry.getValue().close();
            all.remove();
        }
    }

    @Override public void close() throws IOException {
        for (SeekableSource source : open.values())
            source.close();
        open.clear();
    }
}
