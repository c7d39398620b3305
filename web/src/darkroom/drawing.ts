import type { Area, BrushStroke, Focus, Treatment } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'

/** How the brush that paints masks is set; sizes as fractions of the longer side. */
export interface Brush { radius: number; hardness: number; strength: number; erases: boolean }

export interface Spot { x: number; y: number }
const focus = (at: Spot): Focus => ({ x: toRatio(at.x), y: toRatio(at.y) })

/** An area as a drag over a picture of a size makes it; nothing where it went nowhere. */
export function areaOf(kind: Area['kind'], way: Spot[], size: { width: number; height: number }): Area | null {
  const [from, to] = [way[0]!, way.at(-1)!]
  const longer = Math.max(size.width, size.height)
  const [across, down] = [Math.abs(to.x - from.x) * size.width / longer, Math.abs(to.y - from.y) * size.height / longer]
  if (Math.hypot(across, down) < 0.01) return null
  if (kind === 'linear') return { kind, from: focus(from), to: focus(to) }
  if (kind === 'radial') return { kind, centre: focus(from), across: toRatio(Math.max(across, down * 0.2)), down: toRatio(Math.max(down, across * 0.2)), turn: 0, softness: toRatio(0.5) }
  return null
}

export function strokeOf(way: Spot[], brush: Brush): BrushStroke {
  return { points: way.map(focus), radius: toRatio(brush.radius), hardness: toRatio(brush.hardness), strength: toRatio(brush.strength), erases: brush.erases }
}

/** A step with a stroke more: in the painted part that is last, else in a new one. */
export function withStroke(step: Treatment, stroke: BrushStroke): Treatment['mask'] {
  const mask = step.mask ?? { areas: [], inverted: false, density: RATIO_WHOLE, feather: 0 }
  const last = mask.areas.at(-1)
  if (last?.area.kind === 'brush') return { ...mask, areas: [...mask.areas.slice(0, -1), { ...last, area: { ...last.area, strokes: [...last.area.strokes, stroke] } }] }
  return { ...mask, areas: [...mask.areas, { area: { kind: 'brush', strokes: [stroke] }, joins: 'add' }] }
}
