package ablecrate.standins;

import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Optional;
import java.util.Queue;

/// A MIDI cable of 31,250 bits a second with a rack sampler at its end. Its time is its own: it passes as fast as the computer can, or as slowly as wanted.
/// One thread.
///
/// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, hardware: ten bits for a byte.
public final class SimulatedCable {
    private static final long BYTE_NS = 320_000;

    private final RackOnCable device;
    private final CableFaults faults;
    private final double speed;
    private final SysEx toDevice = new SysEx(), fromDevice = new SysEx();
    private final Queue<Coming> coming = new ArrayDeque<>();
    private final Queue<byte[]> whole = new ArrayDeque<>();
    private long now, lineFree;

    /// @param at when the last of its bytes is here
    private record Coming(byte[] bytes, long at) {}

    /// @param speed times real time; 0 as fast as can be
    public SimulatedCable(RackOnCable device, CableFaults faults, double speed) {
        this.device = device;
        this.faults = faults;
        this.speed = speed;
    }

    public Duration time() { return Duration.ofNanos(now); }

    /// Returns when the message is through.
    public void send(byte[] message) {
        byte[] through = faults.through(message);
        pass(now + through.length * BYTE_NS);
        for (byte each : through)
            toDevice.take(each).ifPresent(m -> device.on(m, now).forEach(this::answer));
    }

    /// The next message from the device.
    public Optional<byte[]> receive(Duration most) {
        long end = now + most.toNanos();
        while (whole.isEmpty()) {
            long next = Math.min(coming.isEmpty() ? Long.MAX_VALUE : coming.peek().at, device.wakes());
            if (next > end) {
                pass(end);
                return Optional.empty();
            }
            pass(next);
        }
        return Optional.of(whole.remove());
    }

    private void answer(RackOnCable.Reply reply) {
        byte[] through = faults.through(reply.bytes());
        lineFree = Math.max(lineFree, now + reply.after().toNanos()) + through.length * BYTE_NS;
        coming.add(new Coming(through, lineFree));
    }

    /// Time passes, and with it all that happens meanwhile.
    private void pass(long to) {
        for (;;) {
            long arrives = coming.isEmpty() ? Long.MAX_VALUE : coming.peek().at, wakes = device.wakes(), next = Math.min(arrives, wakes);
            if (next > to) break;
            now = Math.max(now, next);
            if (arrives <= wakes) {
                for (byte each : coming.remove().bytes)
                    fromDevice.take(each).ifPresent(whole::add);
            } else
                device.woken(now).forEach(this::answer);
        }
        sleep(to - now);
        now = Math.max(now, to);
    }

    private void sleep(long nanos) {
        if (speed <= 0 || nanos <= 0) return;
        try {
            Thread.sleep(Duration.ofNanos((long) (nanos / speed)));
        } catch (InterruptedException e) {
            // Whoever waits for the cable finds out that it is to stop.
            Thread.currentThread().interrupt();
        }
    }
}
