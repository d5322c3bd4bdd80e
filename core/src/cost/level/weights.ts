/** The part of a capacity that an amount counts for. */
export type Weight = (amount: number, capacity: number) => number

/**
 * Dual feasible functions: whatever fits together weighs at most 1 together. The plain share, and those that see that three of four can
 * not share with two.
 * @see Fekete & Schepers 2001, "New classes of fast lower bounds for bin packing problems", Math. Program. 91(1)
 */
export const WEIGHTS: readonly Weight[] = [
  (amount, capacity) => amount / capacity,
  ...[1, 2, 3, 4, 5].map((k): Weight => (amount, capacity) => {
    const share = ((k + 1) * amount) / capacity
    return Math.abs(share - Math.round(share)) < 1e-9 ? amount / capacity : Math.floor(share) / k
  }),
]
