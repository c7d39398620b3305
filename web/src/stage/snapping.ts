import type { Frame, SnapStop, SnapStops } from '../generated/types'
import { toCssPx } from '../measures'
import type { Grip } from './geometry'

/** What an edge was caught by: how far it had to go, and every stop that lies there. */
export interface Catch {
  by: number
  stops: SnapStop[]
}

/** The nearest stop within reach of a position, for a box that spans `from` to `to` on the other axis; CSS pixels. */
export function caught(stops: SnapStop[], at: number, from: number, to: number, reach: number): Catch | null {
  let best: SnapStop | null = null
  let by = reach
  for (const stop of stops) {
    const distance = Math.abs(toCssPx(stop.at) - at)
    const applies = !stop.within || (from < toCssPx(stop.within.to) && to > toCssPx(stop.within.from))
    if (applies && distance < by) {
      best = stop
      by = distance
    }
  }
  if (!best) return null
  const place = best.at
  const same = stops.filter(
    (stop) => Math.abs(stop.at - place) <= 1 && (!stop.within || (from < toCssPx(stop.within.to) && to > toCssPx(stop.within.from))),
  )
  return { by: toCssPx(place) - at, stops: same }
}

/** What the dragged edges of a frame are caught by. */
export function caughtEdges(stops: SnapStops, frame: Frame, grip: Grip, reach: number): { x: Catch | null; y: Catch | null } {
  const x = grip.h ? caught(stops.upright, grip.h > 0 ? frame.x + frame.w : frame.x, frame.y, frame.y + frame.h, reach) : null
  const y = grip.v ? caught(stops.level, grip.v > 0 ? frame.y + frame.h : frame.y, frame.x, frame.x + frame.w, reach) : null
  return { x: x ?? likeSize(stops.widths, frame.w, grip.h, reach), y: y ?? likeSize(stops.heights, frame.h, grip.v, reach) }
}

/** Catches a size that another item has. */
function likeSize(sizes: number[], size: number, side: number, reach: number): Catch | null {
  if (!side) return null
  const nearest = sizes
    .map(toCssPx)
    .reduce<number | null>((best, other) => (Math.abs(other - size) < Math.abs((best ?? Infinity) - size) ? other : best), null)
  if (nearest === null || Math.abs(nearest - size) >= reach) return null
  return { by: side * (nearest - size), stops: [{ at: 0, reason: 'equalSize', gaps: [] }] }
}
