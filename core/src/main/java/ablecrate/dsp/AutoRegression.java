package ablecrate.dsp;

/// Models of a signal that predict each sample from those before it.
public final class AutoRegression {
    /// A part of the mean square that keeps the model stable where the surroundings are a pure tone.
    private static final double FLOOR = 1e-11;

    private AutoRegression() {}

    /// Coefficients of the filter that predicts best on both sides, forward and backward: 1, a₁ … (modified covariance: unlike the autocorrelation, it
    /// takes a tone for a tone however few of its periods there are).
    static double[] model(double[] x, int start, int from, int to, int end, int order) {
        double[][] products = new double[order][order];
        double[] right = new double[order];
        products(x, start, from, order, products, right);
        products(x, to, end, order, products, right);
        double ridge = Double.MIN_NORMAL;
        for (int i = 0; i < order; i++)
            ridge += FLOOR * products[i][i];
        for (int i = 0; i < order; i++)
            products[i][i] += ridge;
        solve(products, right);
        double[] a = new double[order + 1];
        a[0] = 1;
        System.arraycopy(right, 0, a, 1, order);
        return a;
    }

    /// What a model made of a stretch cannot predict of a longer one: what is new in it.
    /// @param x samples; the model is made of the first `known`
    /// @return as many as `x` has; the first `order` are 0
    public static double[] residual(double[] x, int known, int order) {
        double[] a = model(x, 0, known, known, known, order), out = new double[x.length];
        for (int n = order; n < x.length; n++)
            for (int i = 0; i <= order; i++)
                out[n] += a[i] * x[n - i];
        return out;
    }

    private static void products(double[] x, int from, int to, int order, double[][] products, double[] right) {
        for (int n = from + order; n < to; n++)
            for (int i = 1; i <= order; i++) {
                double forward = x[n - i], backward = x[n - order + i];
                right[i - 1] -= forward * x[n] + backward * x[n - order];
                for (int j = 1; j <= i; j++)
                    products[i - 1][j - 1] += forward * x[n - j] + backward * x[n - order + j];
            }
        for (int i = 0; i < order; i++)
            for (int j = i + 1; j < order; j++)
                products[i][j] = products[j][i];
    }

    /// Cholesky, in place; the result is in `right`.
    static void solve(double[][] s, double[] right) {
        int n = right.length;
        for (int j = 0; j < n; j++) {
            double diagonal = s[j][j];
            for (int k = 0; k < j; k++)
                diagonal -= s[j][k] * s[j][k];
            s[j][j] = Math.sqrt(Math.max(diagonal, Double.MIN_NORMAL));
            for (int i = j + 1; i < n; i++) {
                double sum = s[i][j];
                for (int k = 0; k < j; k++)
                    sum -= s[i][k] * s[j][k];
                s[i][j] = sum / s[j][j];
            }
        }
        for (int i = 0; i < n; i++) {
            for (int k = 0; k < i; k++)
                right[i] -= s[i][k] * right[k];
            right[i] /= s[i][i];
        }
        for (int i = n - 1; i >= 0; i--) {
            for (int k = i + 1; k < n; k++)
                right[i] -= s[k][i] * right[k];
            right[i] /= s[i][i];
        }
    }
}
