import type { BrushSetting, Focus } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'

/** How the brush that paints masks is set; sizes as fractions of what lengths are fractions of. */
export interface Brush {
  radius: number
  hardness: number
  strength: number
  erases: boolean
}

/** A place as fractions of what is treated. */
export interface Spot {
  x: number
  y: number
}

export const focus = (at: Spot): Focus => ({ x: toRatio(at.x), y: toRatio(at.y) })
const share = (value: number) => value / RATIO_WHOLE
export const brushOf = (set: BrushSetting): Brush => ({
  radius: share(set.radius),
  hardness: share(set.hardness),
  strength: share(set.strength),
  erases: set.erases,
})
export const setBrush = (brush: Brush): BrushSetting => ({
  radius: toRatio(brush.radius),
  hardness: toRatio(brush.hardness),
  strength: toRatio(brush.strength),
  erases: brush.erases,
})
