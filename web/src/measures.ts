import { FINE_UNITS_PER_INCH, type Format, type Unit } from './generated/types'

/** Fine units of a stored length in a CSS pixel, the unit of the stage. */
export const FINE_PER_CSS_PX = FINE_UNITS_PER_INCH / 96

export const RATIO_WHOLE = 1_000_000_000
export const ANGLE_DEGREE = 1_000_000

export const toFine = (cssPx: number) => Math.round(cssPx * FINE_PER_CSS_PX)
export const toCssPx = (fine: number) => fine / FINE_PER_CSS_PX
export const toRatio = (share: number) => Math.round(share * RATIO_WHOLE)

function perInch(unit: Unit, ppi: number): number {
  return { px: ppi, pt: 72, mm: 25.4, cm: 2.54, in: 1 }[unit]
}

/** A stored length as a number of a unit, to what people can tell apart. */
export function showLength(fine: number, unit: Unit, ppi: number): string {
  const value = (fine / FINE_UNITS_PER_INCH) * perInch(unit, ppi)
  const digits = { px: 1, pt: 1, mm: 2, cm: 3, in: 3 }[unit]
  return String(Number(value.toFixed(digits)))
}

export function showFormat(format: Format): string {
  const side = (fine: number) => showLength(fine, format.unit, format.ppi)
  return `${side(format.size.w)} × ${side(format.size.h)} ${format.unit}`
}

/** Type is measured in pixels on screens and in points on paper. */
export const typeUnit = (format: Format): Unit => (format.unit === 'px' ? 'px' : 'pt')

export function showBytes(bytes: number): string {
  if (bytes < 1_000) return `${bytes} bytes`
  if (bytes < 1_000_000) return `${Math.round(bytes / 1_000)} KB`
  return `${(bytes / 1_000_000).toFixed(1)} MB`
}

/** Where a side is folded, from its left or its top. A back is seen from behind. */
export function foldsOf(format: Format, back: boolean): { level: boolean; at: number[] } {
  const { level, at } = format.finish?.folds ?? { level: false, at: [] }
  return { level, at: back && !level ? at.map((line) => format.size.w - line) : at }
}
