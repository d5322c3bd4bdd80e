import { ROW_HEIGHT } from './tokens.ts'
import type { Shape } from './shapes.ts'

/** What a shape is drawn of, each with its own pen: on the screen by class, in a file by attributes. */
export interface ShapePart {
  readonly pen: 'span' | 'pocket' | 'body' | 'notch' | 'groove' | 'rope' | 'pole' | 'flag' | 'mark' | 'keel'
  readonly d: string
}

export const BAR = 15
export const BAR_TOP = (ROW_HEIGHT - BAR) / 2
const KEEL_GAP = 3.5
export const barWidth = (s: Shape): number => Math.max(4, s.x2 - s.x1)

/** The drawing of a shape, from back to front. */
export const shapeParts = (s: Shape): ShapePart[] => {
  const top = s.y + BAR_TOP
  const middle = s.y + ROW_HEIGHT / 2
  const parts: ShapePart[] = []
  const add = (pen: ShapePart['pen'], d: string): void => void (d !== '' && parts.push({ pen, d }))
  if (s.kind === 'group') {
    add('span', `M${s.x1},${s.y + 12.5}H${s.x2}M${s.x1},${s.y + 16.5}H${s.x2}`)
    return parts
  }
  add('pocket', pocketPath(s))
  switch (s.kind) {
    case 'work': {
      add('body', capsule(s.x1, top, barWidth(s), BAR))
      if (s.ink === 'short')
        add(
          'notch',
          `M${s.x1 - 1},${top + 0.5}h6l5,${BAR / 2 - 0.5}l-5,${BAR / 2 - 0.5}h-6l4,${-BAR / 2 + 0.5}z`,
        )
      const worn = (barWidth(s) - 8) * s.progress
      if (worn > 0) add('groove', capsule(s.x1 + 4, middle - 1.5, worn, 3))
      break
    }
    case 'hammock':
      add(
        'rope',
        `M${s.x1},${s.y + 5}v16M${s.x2},${s.y + 5}v16M${s.x1},${s.y + 8}C${s.x1 + (s.x2 - s.x1) * 0.3},${s.y + 26} ${s.x1 + (s.x2 - s.x1) * 0.7},${s.y + 26} ${s.x2},${s.y + 8}`,
      )
      break
    case 'pennant':
      add('pole', `M${s.x1},${s.y + 4}v22`)
      add(
        'flag',
        s.atStart ? `M${s.x1},${s.y + 5}h13l-4,4.5l4,4.5h-13z` : `M${s.x1},${s.y + 5}h-13l4,4.5l-4,4.5h13z`,
      )
      break
    case 'ring':
      add('mark', `M${s.x1 - 7},${middle}a7,7 0 1 1 14,0a7,7 0 1 1 -14,0z`)
      break
    case 'hexagon':
      add('mark', `M${s.x1 + 8},${middle}l-4,6.93h-8l-4,-6.93l4,-6.93h8z`)
      break
  }
  if (s.onPath) add('keel', keelPath(s))
  return parts
}

/** The longest path runs under its bars and marks, whatever float they have. */
const keelPath = (s: Shape): string => {
  const half = s.kind === 'work' || s.kind === 'hammock' ? 0 : 7
  const right = half > 0 ? s.x1 + half : s.x1 + barWidth(s)
  return `M${s.x1 - half},${s.y + BAR_TOP + BAR + KEEL_GAP}H${right}`
}

/** The room of a bar: low as far as its float goes, high as far as its free float. */
const pocketPath = (s: Shape): string => {
  const top = s.y + BAR_TOP
  const from = (to: number): number => (to < s.x1 ? s.x1 : s.x2)
  const low =
    s.pocket !== null && s.kind !== 'hammock'
      ? `M${from(s.pocket)},${top + BAR - 5}H${s.pocket}V${top + BAR - 0.5}H${from(s.pocket)}`
      : ''
  return s.freePocket === null
    ? low
    : `${low}M${from(s.freePocket)},${top + 2}H${s.freePocket}V${top + BAR - 0.5}`
}

/** The mark of a date that holds an edge: a bracket beside the bar, open towards it. */
export const limitPath = (s: Shape, edge: 'start' | 'finish'): string => {
  const [x, hook] = edge === 'start' ? [s.x1 - 3, -4] : [s.x2 + 3, 4]
  return `M${x},${s.y + 3}v${ROW_HEIGHT - 6}M${x},${s.y + 3}h${hook}M${x},${s.y + ROW_HEIGHT - 3}h${hook}`
}

const capsule = (x: number, y: number, width: number, height: number): string => {
  const r = Math.min(height, width) / 2
  return `M${x + r},${y}h${width - 2 * r}a${r},${height / 2} 0 0 1 0,${height}h${2 * r - width}a${r},${height / 2} 0 0 1 0,${-height}z`
}
