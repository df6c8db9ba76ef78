/// How fast and how good: kernels one by one, files for the comparison of whole processes, and the quality report.
package ablecrate.benchmarks;
