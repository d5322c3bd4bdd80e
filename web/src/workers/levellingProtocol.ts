import type { Change, FoundBy, LevelOptions, Plan } from '@geodrome/core'

/** What the page and the levelling worker say to each other; activities and resources by id. */

export interface LevellingStart {
  readonly kind: 'start'
  readonly plan: Plan
  readonly options: LevelOptions
}
/** A stop is answered with the best that was found so far. */
export type LevellingRequest = LevellingStart | { readonly kind: 'stop' }

export interface LevellingResult {
  readonly changes: readonly Change[]
  readonly finishBefore: number
  readonly finish: number
  /** No levelled plan can finish earlier. */
  readonly proven: number
  /** Whose time that is; null: the longest path on joint calendars, or what is said with it. */
  readonly provenBy: string | null
  /** What would have to be done in a time that does not hold it, were the finish a minute earlier. */
  readonly because: {
    readonly from: number
    readonly to: number
    readonly activities: readonly string[]
    readonly needed: number
  } | null
  /** Every way to an earlier finish was ruled out. */
  readonly isSearched: boolean
  readonly foundBy: FoundBy
  readonly moved: readonly {
    readonly activity: string
    readonly from: number
    readonly start: number
    readonly finish: number
    /** Of the start, in days of the project calendar. */
    readonly days: number
    readonly waits: readonly {
      readonly resource: string
      readonly from: number
      readonly to: number
      readonly heldBy: readonly string[]
    }[]
    readonly pieces: number
    /** Where it waits for no resource itself: whether its hours are others' too, and what drives it. */
    readonly hasJointHours: boolean
    readonly behind: readonly string[]
  }[]
  readonly unresolved: readonly {
    readonly activity: string
    readonly resource: string
    readonly why: 'never-enough' | 'stands' | 'float-used'
  }[]
  readonly without: readonly { readonly activity: string; readonly resource: string }[]
  readonly exceeded: readonly {
    readonly activity: string | null
    readonly limit: number
    readonly finish: number
  }[]
  readonly hasOverload: boolean
}
export type LevellingReply =
  | { readonly kind: 'progress'; readonly done: number; readonly total: number; readonly finish: number }
  | { readonly kind: 'levelled'; readonly result: LevellingResult }
  | { readonly kind: 'failed'; readonly message: string }
