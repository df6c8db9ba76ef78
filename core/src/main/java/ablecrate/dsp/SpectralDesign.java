package ablecrate.dsp;

/// What converting by one ratio needs and many streams share: block lengths, the transforms, the filter's spectrum. Immutable, safe for threads.
final class SpectralDesign {
    /// Long enough that the overlap is a small part, short enough for the second-level cache; measured, see docs/speed.md.
    private static final int LEAST_LENGTH = 8192, BLOCKS_PER_MARGIN = 14;

    final int inputStep, outputStep;
    /// Input and output frames of a block; their ratio is that of the rates.
    final int inputLength, outputLength;
    /// Input frames at each end of a block that are only heard as neighbours: at least the filter's reach, a whole number of steps.
    final int margin;
    final Fft forward, backward;
    /// Real, for the frequencies 0 … below the lower Nyquist; scaled for the unscaled transforms.
    final double[] filter;

    static boolean isPossible(long inputStep, long outputStep) {
        // Larger steps would make blocks of megabytes.
        return inputStep <= 2048 && outputStep <= 2048 && Fft.isPossible((int) (16 * inputStep)) && Fft.isPossible((int) (16 * outputStep));
    }

    SpectralDesign(int inputStep, int outputStep) {
        this.inputStep = inputStep;
        this.outputStep = outputStep;
        KaiserSinc kernel = new KaiserSinc((double) outputStep / inputStep);
        margin = inputStep * Math.ceilDiv(kernel.reach(), inputStep);
        int steps = 16;
        while (Math.max(inputStep, outputStep) * steps < LEAST_LENGTH || inputStep * steps < BLOCKS_PER_MARGIN * margin)
            steps *= 2;
        inputLength = inputStep * steps;
        outputLength = outputStep * steps;
        forward = new Fft(inputLength);
        backward = new Fft(outputLength);
        filter = filter(kernel);
    }

    private double[] filter(KaiserSinc kernel) {
        double[] re = new double[inputLength], im = new double[inputLength];
        re[0] = kernel.at(0);
        for (int n = 1; n < kernel.reach(); n++)
            re[n] = re[inputLength - n] = kernel.at(n);
        forward.forward(re, im, new double[inputLength], new double[inputLength]);
        double[] half = new double[Math.min(inputLength, outputLength) / 2];
        for (int k = 0; k < half.length; k++)
            half[k] = re[k] / re[0] / inputLength; // exactly 1 at DC
        return half;
    }

    /// Input frames that a block moves on.
    int hop() { return inputLength - 2 * margin; }

    /// Output frames that a block yields.
    int yield() { return hop() / inputStep * outputStep; }
}
