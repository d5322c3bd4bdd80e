/** Size of words on the screen, in pixels, of a drawing that is seen from afar. */
const WORD = 11
/** The largest that they find room for, in pixels of the drawing. */
const MOST = 48
/** Below this zoom a drawing says codes alone. */
export const FAR = 0.55
/** From here on those codes can be read. */
export const READABLE = WORD / MOST

/** Size of words at a zoom, in pixels of the drawing: they keep theirs on the screen as long as they find room. */
export const wordSize = (zoom: number): number => Math.min(MOST, WORD / zoom)
