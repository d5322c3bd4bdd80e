import { onBeforeUnmount, shallowRef, watch, type ShallowRef } from 'vue'
import { readSheets, type ListSheet, type Plan, type SheetsReading } from '@geodrome/core'
import type { ListToRead } from '../../workers/scheduleProtocol.ts'

/** How a sheet is read, as it is said under its columns. */
export type SheetManner = Pick<ListSheet, 'mapping' | 'badRows'>

/** From this many rows on a list is read beside the page. */
const LONG = 200

export interface ListReader {
  /** null until the list has been read once. */
  readonly reading: Readonly<ShallowRef<SheetsReading | null>>
  readonly isReading: Readonly<ShallowRef<boolean>>
}

/**
 * Reads a list as often as it is said to be read otherwise.
 * @param list - what is read into which plan; null while that is not known
 * @param beside - reads a long one in a worker
 */
export const useListReading = (
  list: () => {
    readonly plan: Plan
    readonly sheets: readonly ListSheet[]
    readonly group: string | null
  } | null,
  beside: (list: ListToRead) => Promise<SheetsReading | null>,
): ListReader => {
  const reading = shallowRef<SheetsReading | null>(null)
  const isReading = shallowRef(false)
  let asked = 0
  watch(
    list,
    async (now) => {
      const ask = ++asked
      isReading.value = now !== null && now.sheets.reduce((rows, { cells }) => rows + cells.length, 0) >= LONG
      const found =
        now === null
          ? null
          : isReading.value
            ? await beside(now)
            : readSheets(now.plan, now.sheets, { group: now.group, random: Math.random })
      if (ask !== asked) return
      isReading.value = false
      reading.value = found
    },
    { immediate: true },
  )
  onBeforeUnmount(() => asked++)
  return { reading, isReading }
}
