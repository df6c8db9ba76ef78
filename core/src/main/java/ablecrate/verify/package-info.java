/// What is said of a result, measured on the result: an [ablecrate.verify.Expectation] from the plan and the rendering, a [ablecrate.verify.Finding] from the
/// written file, decoded again in full, and a [ablecrate.verify.Comparison] of both that gives typed outcomes.
package ablecrate.verify;
