import type { Frame } from '../generated/types'

/** Points and boxes on the stage, in CSS pixels of the sheet unless said otherwise. */
export interface Dot {
  x: number
  y: number
}

export const radians = (degrees: number) => (degrees * Math.PI) / 180

export function turned(dot: Dot, degrees: number): Dot {
  const a = radians(degrees)
  return { x: dot.x * Math.cos(a) - dot.y * Math.sin(a), y: dot.x * Math.sin(a) + dot.y * Math.cos(a) }
}

export const middle = (frame: Frame): Dot => ({ x: frame.x + frame.w / 2, y: frame.y + frame.h / 2 })

/** From the sheet to the frame's own axes, its top left being the origin. */
export function toLocal(frame: Frame, dot: Dot): Dot {
  const c = middle(frame)
  const d = turned({ x: dot.x - c.x, y: dot.y - c.y }, -frame.turn)
  return { x: d.x + frame.w / 2, y: d.y + frame.h / 2 }
}

export function toSheet(frame: Frame, local: Dot): Dot {
  const c = middle(frame)
  const d = turned({ x: local.x - frame.w / 2, y: local.y - frame.h / 2 }, frame.turn)
  return { x: d.x + c.x, y: d.y + c.y }
}

export function isInside(frame: Frame, dot: Dot, slack = 0): boolean {
  const p = toLocal(frame, dot)
  return p.x >= -slack && p.y >= -slack && p.x <= frame.w + slack && p.y <= frame.h + slack
}

/** The upright box around frames. */
export function around(frames: Frame[]): Frame | null {
  const corners = frames.flatMap((f) =>
    [
      { x: 0, y: 0 },
      { x: f.w, y: 0 },
      { x: 0, y: f.h },
      { x: f.w, y: f.h },
    ].map((c) => toSheet(f, c)),
  )
  if (!corners.length) return null
  const x = Math.min(...corners.map((c) => c.x))
  const y = Math.min(...corners.map((c) => c.y))
  return { x, y, w: Math.max(...corners.map((c) => c.x)) - x, h: Math.max(...corners.map((c) => c.y)) - y, turn: 0 }
}

/** A handle: -1 left or top, 0 middle, 1 right or bottom. */
export interface Grip {
  h: -1 | 0 | 1
  v: -1 | 0 | 1
}

export const ALL_GRIPS: Grip[] = [
  { h: -1, v: -1 },
  { h: 0, v: -1 },
  { h: 1, v: -1 },
  { h: 1, v: 0 },
  { h: 1, v: 1 },
  { h: 0, v: 1 },
  { h: -1, v: 1 },
  { h: -1, v: 0 },
]

const LEAST = 2

/** The frame after a grip was dragged by a distance on the sheet; the opposite edge or corner stays where it is. */
export function resized(frame: Frame, grip: Grip, by: Dot, proportional: boolean): Frame {
  const d = turned(by, -frame.turn)
  let w = Math.max(LEAST, frame.w + grip.h * d.x)
  let h = Math.max(LEAST, frame.h + grip.v * d.y)
  if (proportional && grip.h && grip.v) {
    // The pointer's way along the diagonal decides, so that both edges follow the hand.
    const length = frame.w * frame.w + frame.h * frame.h
    const factor = Math.max((w * frame.w + h * frame.h) / length, LEAST / Math.min(frame.w, frame.h))
    w = frame.w * factor
    h = frame.h * factor
  }
  const shift = turned({ x: (grip.h * (w - frame.w)) / 2, y: (grip.v * (h - frame.h)) / 2 }, frame.turn)
  const c = middle(frame)
  return { x: c.x + shift.x - w / 2, y: c.y + shift.y - h / 2, w, h, turn: frame.turn }
}

/** A pointer shape for a grip of a turned frame. */
export function gripCursor(grip: Grip, turn: number): string {
  const angle = (Math.atan2(grip.v, grip.h) * 180) / Math.PI + turn
  const step = ((Math.round(angle / 45) % 4) + 4) % 4
  return ['ew-resize', 'nwse-resize', 'ns-resize', 'nesw-resize'][step]!
}
