// Colours and measures
export { DAYLIGHT, DUSK, ROW_HEIGHT, type Tokens } from './tokens.ts'
// The Ground
export { arrangeRows, type Row, type RowArrangement, type RowModel } from './rows.ts'
export { drawnPlan, type DrawnDates, type DrawnPlan } from './drawnPlan.ts'
export { inkOf, type Ink } from './ink.ts'
export { shapeOf, type Shape } from './shapes.ts'
export { BAR, BAR_TOP, barWidth, limitPath, shapeParts, type ShapePart } from './shapeParts.ts'
export { linkPath, type LinkEnd } from './linkPath.ts'
export { bracketPath } from './bracketPath.ts'
export { nonWorkingBands, type Band } from './nonWorkingBands.ts'
export { pinsOf, placePins, type Pin, type PlacedPin } from './pins.ts'
export { groundSvg } from './groundSvg.ts'
// Distributions
export { amountScale, DATE_SCALE, DAY_MS, type ScaleValue, type ValueScale } from './valueScale.ts'
export { dotStacks, type StackedDot } from './dotStacks.ts'
