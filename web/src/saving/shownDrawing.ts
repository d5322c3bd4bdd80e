import { xmlLetters } from '@geodrome/core'

/** What of the looks of a shape a file needs: it knows nothing of the page's style sheets. */
const LOOKS = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-opacity',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-linejoin',
  'opacity',
  'paint-order',
  'text-anchor',
  'font-family',
  'font-size',
  'font-weight',
  'visibility',
] as const
const PLAIN: Partial<Record<(typeof LOOKS)[number], string>> = {
  'fill-opacity': '1',
  'stroke-opacity': '1',
  'stroke-dasharray': 'none',
  'stroke-linecap': 'butt',
  'stroke-linejoin': 'miter',
  opacity: '1',
  'paint-order': 'normal',
  visibility: 'visible',
}
const WORDS_ONLY = new Set<string>(['text-anchor', 'font-family', 'font-size', 'font-weight'])
const SVG = 'http://www.w3.org/2000/svg'
/** Where the words of an element are cut off, because what they stand in shows no more (px of the page). */
const cutAt = (of: Element | null, within: Element): number => {
  if (of === null || of === within) return Infinity
  const own = getComputedStyle(of).overflowX === 'visible' ? Infinity : of.getBoundingClientRect().right
  return Math.min(own, cutAt(of.parentElement, within))
}
/** Words that are shown to their end, or as many of their letters as fit. */
const fitting = (words: string, { left, right }: DOMRect, edge: number): string =>
  right <= edge + 1
    ? words
    : `${words.slice(0, Math.max(0, Math.floor((words.length * (edge - left)) / (right - left)) - 1)).trimEnd()}…`
const isClear = (paint: string): boolean =>
  paint === 'none' || paint === 'transparent' || /, 0\)$/.test(paint)

const make = (name: string, attributes: Record<string, string | number>): SVGElement => {
  const element = document.createElementNS(SVG, name)
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, String(value))
  return element
}
const round = (value: number): number => Math.round(value * 10) / 10

/** Gives a copied shape the looks that the page's style sheets give the shown one, and takes from it what only the page uses. */
const dress = (shown: Element, copy: Element): void => {
  const style = getComputedStyle(shown)
  const isText = shown.localName === 'text' || shown.localName === 'tspan'
  for (const name of [...copy.getAttributeNames()])
    if (/^(?:class|style|role|tabindex|data-|aria-)/.test(name)) copy.removeAttribute(name)
  if (['defs', 'title', 'desc', 'clipPath', 'pattern'].includes(shown.localName)) return
  for (const name of LOOKS) {
    if (WORDS_ONLY.has(name) && !isText) continue
    const value = style
      .getPropertyValue(name)
      .replaceAll('"', "'")
      .replace(/url\('(#[^']+)'\)/, 'url($1)')
    if (value === PLAIN[name] || (name.startsWith('stroke-') && style.stroke === 'none'))
      copy.removeAttribute(name)
    else
      copy.setAttribute(
        name,
        name.startsWith('fill') || name === 'stroke' ? (isClear(value) ? 'none' : value) : value,
      )
  }
}

/** A shown drawing as one that stands by itself, at a place of the whole. */
const standing = (shown: SVGSVGElement, x: number, y: number, width: number, height: number): SVGElement => {
  const copy = shown.cloneNode(true) as SVGSVGElement
  const [from, to] = [shown.querySelectorAll('*'), copy.querySelectorAll('*')]
  from.forEach((element, k) => dress(element, to[k]!))
  dress(shown, copy)
  for (const name of [...LOOKS, 'xmlns']) copy.removeAttribute(name)
  Object.entries({ x, y, width, height }).forEach(([name, value]) =>
    copy.setAttribute(name, String(round(value))),
  )
  return copy
}

let measure: CanvasRenderingContext2D | null = null
/** How far below the top of its line a font's letters stand (px). */
const ascentOf = (font: string, letters: string): number => {
  measure ??= document.createElement('canvas').getContext('2d')
  if (!measure) return 0
  measure.font = font
  return measure.measureText(letters).fontBoundingBoxAscent
}

/** The words of a text node, a piece for each line that the page breaks them into. */
const linesOf = (node: Text): { words: string; box: DOMRect }[] => {
  const range = document.createRange()
  const lines: { words: string; box: DOMRect }[] = []
  for (const { 0: word, index } of node.data.matchAll(/\S+\s*/g)) {
    range.setStart(node, index)
    range.setEnd(node, index + word.trimEnd().length)
    const box = range.getBoundingClientRect()
    if (box.width === 0) continue
    const last = lines.at(-1)
    if (last && Math.abs(last.box.top - box.top) < 3) last.words += word.replace(/\s+/g, ' ')
    else lines.push({ words: word.replace(/\s+/g, ' '), box })
  }
  return lines
}

/** Patterns that shapes are filled with and that stand elsewhere on the page. */
const addPatterns = (svg: SVGElement): void => {
  const used = [...svg.querySelectorAll('[fill^="url("]')].map((one) =>
    one.getAttribute('fill')!.slice(5, -1),
  )
  for (const id of new Set(used)) {
    const pattern = document.getElementById(id)
    if (!pattern || svg.querySelector(`#${CSS.escape(id)}`)) continue
    const copy = pattern.cloneNode(true) as Element
    const to = copy.querySelectorAll('*')
    pattern.querySelectorAll('*').forEach((element, k) => dress(element, to[k]!))
    const defs = make('defs', {})
    defs.append(copy)
    svg.prepend(defs)
  }
}

/** A button's words may stand in an element that has no box of its own: what counts is that nothing hides it. */
const isShown = (element: Element): boolean => {
  if (element.classList.contains('sr') || element.hasAttribute('data-not-saved')) return false
  const { display, visibility } = getComputedStyle(element)
  return display !== 'none' && visibility === 'visible'
}

/** Does something while what sticks to the edge of a scrolled pane stands at its own place. @returns what it gave */
const unstuck = <T>(element: Element, run: () => T): T => {
  const stuck = [...element.querySelectorAll<HTMLElement>('*')].filter(
    (one) => getComputedStyle(one).position === 'sticky',
  )
  for (const one of stuck) one.style.position = 'static'
  try {
    return run()
  } finally {
    for (const one of stuck) one.style.position = ''
  }
}

/**
 * What stands in an element, drawings and words, as one drawing that stands by itself (SVG): as it is seen, in the colours of the theme, with
 * its patterns.
 * @param name - what the drawing is called, in its title
 * @param paper - what it stands on, a colour
 */
export const shownDrawing = (element: Element, name: string, paper: string): string =>
  unstuck(element, () => drawingOf(element, name, paper))

const drawingOf = (element: Element, name: string, paper: string): string => {
  const whole = element.getBoundingClientRect()
  const [width, height] = [Math.ceil(Math.max(whole.width, element.scrollWidth)), Math.ceil(whole.height)]
  const svg = make('svg', { width, height, viewBox: `0 0 ${width} ${height}` })
  const title = make('title', {})
  title.textContent = name
  svg.append(title, make('rect', { width, height, fill: paper }))
  const ground = (shown: Element, { x, y, width: w, height: h }: DOMRect): void => {
    const style = getComputedStyle(shown)
    const [fill, edge] = [style.backgroundColor, parseFloat(style.borderTopWidth)]
    const isRound = edge > 0 && style.borderLeftStyle !== 'none' && parseFloat(style.borderLeftWidth) > 0
    if (isClear(fill) && !isRound) return
    const attributes = { x: round(x - whole.x), y: round(y - whole.y), width: round(w), height: round(h) }
    const border: Record<string, string | number> = isRound
      ? { stroke: style.borderTopColor, 'stroke-width': edge }
      : {}
    svg.append(
      make('rect', {
        ...attributes,
        rx: parseFloat(style.borderTopLeftRadius) || 0,
        fill: isClear(fill) ? 'none' : fill,
        ...border,
      }),
    )
  }
  const words = (node: Text): void => {
    const style = getComputedStyle(node.parentElement!)
    const edge = cutAt(node.parentElement, element)
    for (const { words: line, box } of linesOf(node)) {
      const text = make('text', {
        x: round(box.x - whole.x),
        y: round(box.y - whole.y + ascentOf(style.font, line)),
        fill: style.color,
        'font-family': style.fontFamily.replaceAll('"', "'"),
        'font-size': style.fontSize,
        'font-weight': style.fontWeight,
      })
      text.textContent = fitting(line.trimEnd(), box, edge)
      svg.append(text)
    }
  }
  const walk = (shown: Element): void => {
    if (!isShown(shown)) return
    const box = shown.getBoundingClientRect()
    if (shown instanceof SVGSVGElement)
      return svg.append(standing(shown, box.x - whole.x, box.y - whole.y, box.width, box.height))
    if (shown !== element) ground(shown, box)
    for (const child of shown.childNodes)
      if (child instanceof Text) words(child)
      else if (child instanceof Element) walk(child)
  }
  walk(element)
  addPatterns(svg)
  return xmlLetters(new XMLSerializer().serializeToString(svg))
}
