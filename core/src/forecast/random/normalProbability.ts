const horner = (x: number, coefficients: readonly number[]): number =>
  coefficients.reduce((sum, c) => sum * x + c, 0)

const NUMERATOR = [
  3.52624965998911e-2, 0.700383064443688, 6.37396220353165, 33.912866078383, 112.079291497871,
  221.213596169931, 220.206867912376,
]
const DENOMINATOR = [
  8.83883476483184e-2, 1.75566716318264, 16.064177579207, 86.7807322029461, 296.564248779674,
  637.333633378831, 793.826512519948, 440.413735824752,
]
const SPLIT = 7.07106781186547

/**
 * Probability that a standard normal variable is at or below `z`; absolute accuracy about 1e-15.
 * @see West 2005, "Better approximations to cumulative normal functions", Wilmott magazine, after Hart 1968
 */
export const normalProbability = (z: number): number => {
  const x = Math.abs(z)
  if (x > 37) return z > 0 ? 1 : 0
  const density = Math.exp(-(x ** 2) / 2)
  const tail =
    x < SPLIT
      ? (density * horner(x, NUMERATOR)) / horner(x, DENOMINATOR)
      : density / (x + 1 / (x + 2 / (x + 3 / (x + 4 / (x + 0.65))))) / Math.sqrt(2 * Math.PI)
  return z > 0 ? 1 - tail : tail
}
