/** Money as it is shown and written: two decimals, half a cent away from zero. */
export const roundMoney = (amount: number): number => {
  const cents = Math.round(Math.abs(amount) * 100 * (1 + Number.EPSILON))
  return cents === 0 ? 0 : (Math.sign(amount) * cents) / 100
}
