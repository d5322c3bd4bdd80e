/**
 * Logarithm and exponential from the four operations alone. IEEE 754 fixes those bit for bit on every engine, and leaves
 * Math.log and Math.exp to each; simulation results must not depend on the machine.
 */
const LN2_HIGH = 6.9314718036912381649e-1
const LN2_LOW = 1.90821492927058770002e-10
const SQRT_HALF = 0.7071067811865476

/** Natural logarithm. @param x - positive, finite. Relative error below 1e-15. @throws RangeError for x ≤ 0 or not finite */
export const ln = (x: number): number => {
  if (!(x > 0) || x === Infinity) throw new RangeError(`ln: ${x} is not a positive number`)
  let mantissa = x
  let exponent = 0
  while (mantissa >= 2 * SQRT_HALF) {
    mantissa /= 2
    exponent++
  }
  while (mantissa < SQRT_HALF) {
    mantissa *= 2
    exponent--
  }
  // ln m = 2 artanh s, s = (m − 1) / (m + 1), |s| < 0.172: the term s^23 is below 1e-18.
  const s = (mantissa - 1) / (mantissa + 1)
  const s2 = s * s
  let sum = 0
  for (let k = 23; k >= 1; k -= 2) sum = sum * s2 + 1 / k
  return exponent * LN2_HIGH + (2 * s * sum + exponent * LN2_LOW)
}

/** Exponential. @param x - between −700 and 700. Relative error below 1e-15. @throws RangeError outside */
export const exp = (x: number): number => {
  if (!(x >= -700 && x <= 700)) throw new RangeError(`exp: ${x} is outside −700 … 700`)
  const k = Math.floor(x / (LN2_HIGH + LN2_LOW) + 0.5)
  const r = x - k * LN2_HIGH - k * LN2_LOW
  let sum = 1
  for (let n = 18; n >= 1; n--) sum = 1 + (sum * r) / n
  let scale = 1
  for (let i = 0; i < Math.abs(k); i++) scale *= 2
  return k >= 0 ? sum * scale : sum / scale
}
