package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;

/// Which frames lie under which pixels. Knows no toolkit.
/// @param frames of the sound
/// @param first frame under x = 0
/// @param framesPerPixel may be a fraction
/// @param width in pixels
public record WaveScale(long frames, double first, double framesPerPixel, double width) {
    private static final double CLOSEST = 1.0 / 16;

    /// The whole sound in the width.
    public static WaveScale whole(long frames, double width) {
        return new WaveScale(frames, 0, Math.max(CLOSEST, Math.max(1, frames) / Math.max(1, width)), Math.max(1, width));
    }

    public double frameAt(double x) { return first + x * framesPerPixel; }

    public double xOf(double frame) { return (frame - first) / framesPerPixel; }

    /// The frames of one pixel column, at least one while the sound lasts.
    public FrameRange column(int x) {
        long from = Math.clamp((long) Math.floor(frameAt(x)), 0, frames), to = Math.clamp((long) Math.ceil(frameAt(x + 1)), from, frames);
        return new FrameRange(from, to);
    }

    /// @param factor below 1 is nearer
    /// @param x stays where it is
    public WaveScale zoomed(double factor, double x) {
        double whole = Math.max(CLOSEST, Math.max(1, frames) / width), next = Math.clamp(framesPerPixel * factor, Math.min(CLOSEST, whole), whole);
        return new WaveScale(frames, frameAt(x) - x * next, next, width).kept();
    }

    public WaveScale moved(double pixels) { return new WaveScale(frames, first + pixels * framesPerPixel, framesPerPixel, width).kept(); }

    /// The same frames, as far as possible, in another width.
    public WaveScale resized(double newWidth) {
        boolean showsAll = framesPerPixel * width >= frames;
        return showsAll ? whole(frames, newWidth) : new WaveScale(frames, first, framesPerPixel, Math.max(1, newWidth)).kept();
    }

    private WaveScale kept() {
        double last = Math.max(0, frames - framesPerPixel * width);
        return new WaveScale(frames, Math.clamp(first, 0, last), framesPerPixel, width);
    }
}
