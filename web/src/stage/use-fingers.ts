import type { Ref } from 'vue'
import type { Dot } from './geometry'
import type { Viewport } from './use-viewport'

/** Two fingers on the stage pan and zoom it; whatever one finger had begun is given up. */
export function useFingers(element: Ref<HTMLElement | undefined>, viewport: Viewport, giveUp: () => void) {
  const fingers = new Map<number, Dot>()
  let pinching = false

  const local = (event: PointerEvent): Dot => {
    const box = element.value!.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }
  const spread = ([a, b]: Dot[]) => ({ x: (a!.x + b!.x) / 2, y: (a!.y + b!.y) / 2, apart: Math.hypot(a!.x - b!.x, a!.y - b!.y) })

  /** Each returns whether the event belongs to a pinch and to nothing else. */
  function down(event: PointerEvent): boolean {
    if (event.pointerType !== 'touch') return false
    fingers.set(event.pointerId, local(event))
    if (fingers.size === 2) {
      pinching = true
      giveUp()
      for (const id of fingers.keys()) element.value?.setPointerCapture(id)
    }
    return pinching
  }

  function move(event: PointerEvent): boolean {
    if (!fingers.has(event.pointerId)) return pinching
    const before = fingers.size === 2 ? spread([...fingers.values()]) : null
    fingers.set(event.pointerId, local(event))
    if (!pinching || !before) return pinching
    const now = spread([...fingers.values()])
    viewport.pan(now.x - before.x, now.y - before.y)
    if (before.apart > 1) viewport.zoom(now.apart / before.apart, now)
    return true
  }

  function up(event: PointerEvent): boolean {
    fingers.delete(event.pointerId)
    const was = pinching
    if (fingers.size === 0) pinching = false
    return was
  }

  return { down, move, up }
}
