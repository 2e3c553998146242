/** Natural logarithm of the gamma function (C. Lanczos, 1964); for x > 0. */
function logGamma(x: number): number {
  const g = [
    76.18009172947146, -86.50532032941678, 24.01409824083091, -1.231739572450155, 0.001208650973866179,
    -0.000005395239384953,
  ]
  const shifted = x + 5.5 - (x + 0.5) * Math.log(x + 5.5)
  const sum = g.reduce((all, one, i) => all + one / (x + 1 + i), 1.000000000190015)
  return -shifted + Math.log((2.5066282746310007 * sum) / x)
}

const logChoose = (n: number, k: number): number => logGamma(n + 1) - logGamma(k + 1) - logGamma(n - k + 1)

/**
 * How probable it is that of `n` at least `k` come out by chance, each with the probability `p`.
 *
 * @param p between 0 and 1
 */
export function atLeast(k: number, n: number, p: number): number {
  if (k <= 0 || p >= 1) return 1
  if (p <= 0) return 0
  let sum = 0
  for (let i = k; i <= n; i++) {
    const part = Math.exp(logChoose(n, i) + i * Math.log(p) + (n - i) * Math.log1p(-p))
    sum += part
    // Behind the middle each part is smaller than the one before.
    if (i > n * p && part < sum * 1e-12) break
  }
  return Math.min(1, sum)
}
