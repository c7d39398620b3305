import { useTimeoutFn } from '@vueuse/core'
import { reactive, ref, type Ref } from 'vue'
import { api } from '../api/client'
import type { Act, Frame, Item, SnapStops } from '../generated/types'
import { ANGLE_DEGREE, toFine } from '../measures'
import { useBench } from '../stores/bench'
import { caught, caughtEdges, type Catch } from './snapping'
import { around, isInside, middle, resized, turned, type Dot, type Grip } from './geometry'
import type { Viewport } from './use-viewport'

const SLOP = 3
/** Within this many milliseconds a second press belongs to the first. */
const DOUBLE = 450

interface Going {
  kind: 'press' | 'move' | 'resize' | 'turn' | 'pan' | 'crop' | 'band' | 'type'
  start: Dot
  last: Dot
  pointer: number
  grip?: Grip
  frames: Map<string, Frame>
  /** Degrees several items have been turned together. */
  turned?: number
  /** Whether an edge of a cell of pictures is dragged without its neighbours. */
  apart?: boolean
  /** Where what is dragged falls into place, once the server has worked it out. */
  stops?: SnapStops
  /** The cell of the same arrangement the dragged one would change places with. */
  swap?: string | null
  /** What a press without a drag means once it is let go. */
  tap?: () => void
}

/** Drags on the stage: seen at once on the stage itself, one command when they are let go. */
export function useGestures(
  element: Ref<HTMLElement | undefined>,
  viewport: Viewport,
  typing: Ref<{ press(p: Dot, extend: boolean): void; drag(p: Dot): void; release(): void } | null>,
) {
  const bench = useBench()
  /** Frames shown instead of the kept ones while a drag goes on. */
  const ghosts = reactive(new Map<string, Frame>())
  const band = ref<Frame | null>(null)
  /** What the drag has fallen into place with, and the box it would have. */
  const snapped = ref<{ box: Frame; x: Catch | null; y: Catch | null } | null>(null)
  const hovered = ref<string | null>(null)
  /** What a second press in the same place would pick, for as long as that may still come. */
  const next = ref<string | null>(null)
  const forgetNext = useTimeoutFn(
    () => {
      next.value = null
    },
    DOUBLE,
    { immediate: false },
  )
  const grabbing = ref(false)
  let going: Going | null = null
  let rehearsing = false
  /** Items that were shown as they would be. */
  const rehearsed = new Set<string>()
  let nextRehearsal: Act | null = null

  const group = (id: string) => element.value?.querySelector<SVGGElement>(`g[data-item="${id}"]`)
  const local = (event: { clientX: number; clientY: number }): Dot => {
    const box = element.value!.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }
  const shownFrame = (id: string) => ghosts.get(id) ?? bench.drawn.get(id)?.frame

  const item = (id: string): Item | undefined => bench.side?.items.find((other) => other.id === id)
  const isWords = (id: string) => bench.plain(id)?.content.kind === 'words'

  /** What lies under a point, front first: letters by their box, everything else by what is painted there. */
  function under(event: { clientX: number; clientY: number }): string[] {
    const at = viewport.toSheet(local(event))
    const painted = new Set(
      document
        .elementsFromPoint(event.clientX, event.clientY)
        .map((node) => node.closest?.('g[data-item]')?.getAttribute('data-item'))
        .filter((id): id is string => !!id),
    )
    const boxed = bench.order.toReversed().filter((id) => {
      const frame = bench.drawn.get(id)?.frame
      return frame && !item(id)?.locked && isInside(frame, at, 2 / viewport.view.scale)
    })
    const exact = boxed.filter((id) => (isWords(id) || painted.has(id)) && isSeen(id, at))
    if (exact.length) return exact
    // Nothing is painted here: what is nearly clear, or only has its box here, is better than nothing.
    const faint = boxed.filter((id) => painted.has(id))
    return faint.length ? faint : boxed
  }

  /** Whether an item is more than nearly clear at a point of the sheet. */
  function isSeen(id: string, at: Dot): boolean {
    const sight = bench.drawn.get(id)?.sight
    if (!sight) return true
    const [x, y, w, h] = sight.at
    const column = Math.min(sight.columns - 1, Math.max(0, Math.floor(((at.x - x) / w) * sight.columns)))
    const row = Math.min(sight.rows - 1, Math.max(0, Math.floor(((at.y - y) / h) * sight.rows)))
    return sight.cells[row * sight.columns + column] === '#'
  }

  /** What a second press in the same place would pick: the one below what is selected alone. */
  function belowSelected(stack: string[]): string | null {
    const now = bench.selection.toSorted().join()
    const at = stack.findIndex((id) => bench.withGroup(id).toSorted().join() === now)
    return at >= 0 && stack.length > 1 ? stack[(at + 1) % stack.length]! : null
  }

  /** Of the arrangement the one dragged cell belongs to, the other cell at a point. */
  function cellUnder(at: Dot): string | null {
    const [id, ...more] = going!.frames.keys()
    const cells = id && !more.length ? bench.arrangements.find((cells) => cells.includes(id)) : undefined
    return cells?.find((other) => other !== id && isInside(bench.drawn.get(other)!.frame, at)) ?? null
  }

  function begin(event: PointerEvent, kind: Going['kind'], extra: Partial<Going> = {}) {
    element.value?.setPointerCapture(event.pointerId)
    const start = local(event)
    const frames = new Map(
      bench.selection.flatMap((id): [string, Frame][] => {
        const frame = bench.drawn.get(id)?.frame
        return frame ? [[id, frame]] : []
      }),
    )
    going = { kind, start, last: start, pointer: event.pointerId, frames, ...extra }
  }

  /** Asks where the selection falls into place; until the answer is there it moves freely. */
  function findStops() {
    const started = going
    if (!started || !bench.job || !started.frames.size) return
    api.stops(bench.job.id, [...started.frames.keys()]).then(
      (stops) => {
        started.stops = stops
      },
      () => undefined,
    )
  }

  const reach = () => 6 / viewport.view.scale

  function press(event: PointerEvent, panning: boolean) {
    if (event.button === 1 || panning) {
      grabbing.value = true
      return begin(event, 'pan')
    }
    if (event.button !== 0) return
    if (bench.pointing) {
      const [id] = under(event)
      const { take } = bench.pointing
      if (!id) return
      bench.pointing = null
      return take(id, viewport.toSheet(local(event)))
    }
    const at = viewport.toSheet(local(event))
    const typed = bench.typing && bench.drawn.get(bench.typing)
    if (typed && isInside(typed.frame, at, 4 / viewport.view.scale)) {
      begin(event, 'type')
      event.preventDefault()
      return typing.value?.press(local(event), event.shiftKey)
    }
    const cropped = bench.cropping && bench.drawn.get(bench.cropping)
    if (cropped && isInside(cropped.frame, at)) return begin(event, 'crop')
    if (bench.typing || bench.cropping) leave()
    const stack = under(event)
    const [front] = stack
    if (!front) {
      if (!event.shiftKey) bench.selection = []
      bench.entered = null
      return begin(event, 'band')
    }
    if (bench.entered && !item(front)?.groups?.includes(bench.entered)) bench.entered = null
    const whole = bench.withGroup(front)
    if (event.shiftKey) {
      const had = bench.selection.includes(front)
      bench.selection = had ? bench.selection.filter((id) => !whole.includes(id)) : [...bench.selection, ...whole]
      return begin(event, 'press')
    }
    // A press inside the box of what is selected keeps it, also through its holes, unless something that lies over it is pressed.
    const height = (id: string) => bench.order.indexOf(id)
    const held = bench.selection.filter((id) => {
      const frame = bench.drawn.get(id)?.frame
      return frame && !item(id)?.locked && isInside(frame, at, 2 / viewport.view.scale)
    })
    const top = Math.max(...held.map(height))
    if (held.length && (bench.selection.includes(front) || height(front) < top)) {
      const many = whole.length < bench.selection.length && bench.selection.includes(front)
      return begin(event, 'press', { tap: () => (many ? tapOne(front) : hintBelow(stack)) })
    }
    bench.selection = whole
    begin(event, 'press')
  }

  /** One of several that are selected, pressed without a drag, is selected alone. */
  function tapOne(front: string) {
    bench.selection = bench.withGroup(front)
  }

  /** What lies below is outlined for as long as a second press may come. */
  function hintBelow(stack: string[]) {
    next.value = belowSelected(stack)
    forgetNext.start()
  }

  /** A second press in the same place: the one below. Whether there was one. */
  function pickBelow(event: { clientX: number; clientY: number }): boolean {
    const below = next.value ?? belowSelected(under(event))
    next.value = null
    if (!below) return false
    const before = bench.selection
    bench.selection = bench.withGroup(below)
    // Whoever goes on typing, or deletes, meant what was selected.
    reconsider = { items: before, until: Date.now() + 350 }
    return true
  }

  let reconsider = { items: [] as string[], until: 0 }

  /** Called before a key changes what is selected: a pick below that only just happened is taken back. */
  function settlePick() {
    if (Date.now() < reconsider.until) bench.selection = reconsider.items
    reconsider.until = 0
  }

  function leave() {
    bench.typing = null
    bench.cropping = null
  }

  function rehearse(act: Act) {
    nextRehearsal = act
    if (rehearsing) return
    rehearsing = true
    void (async () => {
      while (nextRehearsal) {
        const current: Act = nextRehearsal
        nextRehearsal = null
        const stage = await bench.rehearse(current)
        if (stage && going) {
          bench.patchStage(stage)
          stage.items.forEach((changed) => rehearsed.add(changed.id))
        }
      }
      rehearsing = false
    })()
  }

  /** Scaling of several items by a corner of the box around them. */
  function scaleAct(by: Dot): { act: Act; frame: (frame: Frame) => Frame } {
    const box = around([...going!.frames.values()])!
    const after = resized(box, going!.grip!, by, true)
    const factor = after.w / box.w
    const fixed = { x: going!.grip!.h < 0 ? box.x + box.w : box.x, y: going!.grip!.v < 0 ? box.y + box.h : box.y }
    return {
      act: { act: 'scale', items: [...going!.frames.keys()], about: { x: toFine(fixed.x), y: toFine(fixed.y) }, factor },
      frame: (f) => ({
        x: fixed.x + (f.x - fixed.x) * factor,
        y: fixed.y + (f.y - fixed.y) * factor,
        w: f.w * factor,
        h: f.h * factor,
        turn: f.turn,
      }),
    }
  }

  /** Degrees the pointer has gone round the middle of several items. */
  function turnOf(now: Dot): number {
    const c = viewport.toScreen(middle(around([...going!.frames.values()])!))
    const angle = (p: Dot) => (Math.atan2(p.y - c.y, p.x - c.x) * 180) / Math.PI
    const by = ((((angle(now) - angle(going!.start) + 180) % 360) + 360) % 360) - 180
    const near = Math.round(by / 15) * 15
    return Math.abs(by - near) < 2 ? near : by
  }

  /** What resizing the one selected item by its handle means now. */
  const resizeAct = (): Act | null => {
    const [id] = [...(going?.frames ?? [])][0] ?? []
    const after = id && ghosts.get(id)
    if (!id || !after || !going?.grip) return null
    const to = { x: toFine(after.x), y: toFine(after.y), w: toFine(after.w), h: toFine(after.h) }
    return { act: 'resize', item: id, to, grip: going.grip, apart: going.apart ?? false }
  }

  const cropAct = (dx: number, dy: number, factor: number): Act => ({
    act: 'crop',
    item: bench.cropping!,
    dx: toFine(dx),
    dy: toFine(dy),
    factor,
  })

  function cropBy(frame: Frame, now: Dot): { dx: number; dy: number } {
    const a = (-frame.turn * Math.PI) / 180
    const d = { x: (now.x - going!.start.x) / viewport.view.scale, y: (now.y - going!.start.y) / viewport.view.scale }
    return { dx: d.x * Math.cos(a) - d.y * Math.sin(a), dy: d.x * Math.sin(a) + d.y * Math.cos(a) }
  }

  function drag(event: PointerEvent) {
    const now = local(event)
    if (!going || going.pointer !== event.pointerId) {
      hovered.value = bench.typing || bench.cropping ? null : (under(event)[0] ?? null)
      return
    }
    const total = { x: now.x - going.start.x, y: now.y - going.start.y }
    const by = { x: total.x / viewport.view.scale, y: total.y / viewport.view.scale }
    if (going.kind === 'press') {
      if (Math.hypot(total.x, total.y) < SLOP || !going.frames.size) return
      going.kind = 'move'
      hovered.value = null
      findStops()
    }
    switch (going.kind) {
      case 'pan':
        viewport.pan(now.x - going.last.x, now.y - going.last.y)
        break
      case 'type':
        typing.value?.drag(now)
        break
      case 'move': {
        const held = event.shiftKey ? (Math.abs(by.x) > Math.abs(by.y) ? { x: by.x, y: 0 } : { x: 0, y: by.y }) : { ...by }
        const start = around([...going.frames.values()])!
        const box = { ...start, x: start.x + held.x, y: start.y + held.y }
        const free = event.altKey || !going.stops
        const x = free || (event.shiftKey && held.x === 0) ? null : caught(going.stops!.left, box.x, box.y, box.y + box.h, reach())
        const y = free || (event.shiftKey && held.y === 0) ? null : caught(going.stops!.top, box.y, box.x, box.x + box.w, reach())
        if (x) held.x += x.by
        if (y) held.y += y.by
        snapped.value = { box: { ...box, x: start.x + held.x, y: start.y + held.y }, x, y }
        for (const [id, frame] of going.frames) {
          ghosts.set(id, { ...frame, x: frame.x + held.x, y: frame.y + held.y })
          group(id)?.setAttribute('transform', `translate(${held.x} ${held.y})`)
        }
        // What it would change places with is outlined.
        hovered.value = going.swap = event.altKey ? null : cellUnder(viewport.toSheet(now))
        break
      }
      case 'resize': {
        if (going.frames.size > 1) {
          const act = scaleAct(by)
          rehearse(act.act)
          for (const [id, frame] of going.frames) ghosts.set(id, act.frame(frame))
          break
        }
        const [id, frame] = [...going.frames][0]!
        const corner = going.grip!.h !== 0 && going.grip!.v !== 0
        const proportional = corner && (isWords(id) || !event.shiftKey)
        const loose = resized(frame, going.grip!, by, proportional)
        const edges = event.altKey || !going.stops || frame.turn !== 0 ? null : caughtEdges(going.stops, loose, going.grip!, reach())
        let fixed = loose
        if (edges && proportional) {
          // Both edges follow the one that was caught, the nearer of the two.
          const useX = edges.x && (!edges.y || Math.abs(edges.x.by) <= Math.abs(edges.y.by))
          const factor = useX
            ? (loose.w + going.grip!.h * edges.x!.by) / frame.w
            : edges.y
              ? (loose.h + going.grip!.v * edges.y.by) / frame.h
              : null
          if (factor)
            fixed = resized(
              frame,
              going.grip!,
              { x: going.grip!.h * frame.w * (factor - 1), y: going.grip!.v * frame.h * (factor - 1) },
              false,
            )
          if (useX) edges.y = null
          else edges.x = null
        } else if (edges) {
          fixed = resized(frame, going.grip!, { x: by.x + (edges.x?.by ?? 0), y: by.y + (edges.y?.by ?? 0) }, false)
        }
        snapped.value = { box: fixed, x: edges?.x ?? null, y: edges?.y ?? null }
        ghosts.set(id, fixed)
        going.apart = event.altKey
        const act = resizeAct()
        if (act) rehearse(act)
        break
      }
      case 'turn': {
        if (going.frames.size > 1) {
          going.turned = turnOf(now)
          const m = middle(around([...going.frames.values()])!)
          for (const [id, frame] of going.frames) {
            const c = middle(frame)
            const d = turned({ x: c.x - m.x, y: c.y - m.y }, going.turned)
            ghosts.set(id, { ...frame, x: m.x + d.x - frame.w / 2, y: m.y + d.y - frame.h / 2, turn: frame.turn + going.turned })
            group(id)?.setAttribute('transform', `rotate(${going.turned} ${m.x} ${m.y})`)
          }
          break
        }
        const [id, frame] = [...going.frames][0]!
        const c = viewport.toScreen(middle(frame))
        const angle = (p: Dot) => (Math.atan2(p.y - c.y, p.x - c.x) * 180) / Math.PI
        let turn = frame.turn + angle(now) - angle(going.start)
        const step = event.shiftKey ? 15 : 45
        const near = Math.round(turn / step) * step
        if (event.shiftKey || Math.abs(turn - near) < 2) turn = near
        turn = ((((turn + 180) % 360) + 360) % 360) - 180
        ghosts.set(id, { ...frame, turn })
        const m = middle(frame)
        group(id)?.setAttribute('transform', `rotate(${turn - frame.turn} ${m.x} ${m.y})`)
        break
      }
      case 'crop': {
        const frame = bench.cropping && bench.drawn.get(bench.cropping)?.frame
        if (frame) {
          const { dx, dy } = cropBy(frame, now)
          rehearse(cropAct(dx, dy, 1))
        }
        break
      }
      case 'band': {
        const a = viewport.toSheet(going.start)
        const b = viewport.toSheet(now)
        band.value = { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), w: Math.abs(a.x - b.x), h: Math.abs(a.y - b.y), turn: 0 }
        break
      }
    }
    going.last = now
  }

  async function release(event: PointerEvent) {
    if (!going || going.pointer !== event.pointerId) return
    const ended = going
    nextRehearsal = null
    snapped.value = null
    grabbing.value = false
    if (ended.kind === 'press') ended.tap?.()
    if (ended.kind === 'type') typing.value?.release()
    const many = ended.frames.size > 1
    let together: Act | null = null
    if (many && ended.kind === 'turn' && ended.turned) {
      const m = middle(around([...ended.frames.values()])!)
      together = {
        act: 'turn',
        items: [...ended.frames.keys()],
        about: { x: toFine(m.x), y: toFine(m.y) },
        by: Math.round(ended.turned * ANGLE_DEGREE),
      }
    }
    if (many && ended.kind === 'resize' && ghosts.size) {
      together = scaleAct({
        x: (ended.last.x - ended.start.x) / viewport.view.scale,
        y: (ended.last.y - ended.start.y) / viewport.view.scale,
      }).act
    }
    const [only] = [...ended.frames.keys()]
    if (ended.kind === 'move') {
      const [ghost, frame] = only ? [ghosts.get(only), ended.frames.get(only)] : []
      if (only && ended.swap) together = { act: 'swapPictures', a: only, b: ended.swap }
      else if (ghost && frame)
        together = { act: 'move', items: [...ended.frames.keys()], dx: toFine(ghost.x - frame.x), dy: toFine(ghost.y - frame.y) }
    } else if (ended.kind === 'turn' && !many && only) {
      const ghost = ghosts.get(only)
      if (ghost) together = { act: 'turnTo', item: only, turn: Math.round(ghost.turn * ANGLE_DEGREE) }
    } else if (ended.kind === 'resize' && !many) {
      together = resizeAct()
    }
    if (ended.kind === 'band' && band.value && band.value.w + band.value.h > 4) {
      const reach = band.value
      // What is seen counts: the very letters, not the box they may fill. With Alt it is enough to be touched.
      const inside = bench.order.filter((id) => {
        const drawn = bench.drawn.get(id)!
        const ink = drawn.ink && { x: drawn.ink[0], y: drawn.ink[1], w: drawn.ink[2], h: drawn.ink[3] }
        const box = ink ?? around([drawn.frame])!
        const whole = box.x >= reach.x && box.y >= reach.y && box.x + box.w <= reach.x + reach.w && box.y + box.h <= reach.y + reach.h
        const touched = box.x < reach.x + reach.w && box.y < reach.y + reach.h && box.x + box.w > reach.x && box.y + box.h > reach.y
        const covers = box.x <= 0 && box.y <= 0 && box.x + box.w >= bench.sheet.width && box.y + box.h >= bench.sheet.height
        return !item(id)?.locked && (event.altKey ? touched && !covers : whole)
      })
      const whole = inside.flatMap((id) => bench.withGroup(id))
      bench.selection = [...new Set(event.shiftKey ? [...bench.selection, ...whole] : whole)]
    }
    const cropped = ended.kind === 'crop' && bench.cropping ? bench.drawn.get(bench.cropping)?.frame : undefined
    const crop = cropped && Math.hypot(ended.last.x - ended.start.x, ended.last.y - ended.start.y) > 0 ? cropBy(cropped, ended.last) : null
    going = null
    band.value = null
    let response = crop ? await bench.act(cropAct(crop.dx, crop.dy, 1)) : null
    // What was taken away meanwhile is not moved any more.
    const there = [...ended.frames.keys()].every((id) => bench.side?.items.some((other) => other.id === id))
    if (together && there) response = await bench.act(together)
    // What was shown in a rehearsal and did not come to be is shown as it is again.
    const settled = new Set(response?.stage?.items.map((changed) => changed.id))
    const stale = [...rehearsed].some((id) => !settled.has(id))
    rehearsed.clear()
    if (stale) await bench.show(bench.sideId)
    for (const id of ended.frames.keys()) {
      ghosts.delete(id)
      group(id)?.removeAttribute('transform')
    }
  }

  /** Gives a drag up: everything is as it was. */
  async function giveUp(): Promise<boolean> {
    if (!going) return false
    const ended = going
    going = null
    nextRehearsal = null
    snapped.value = null
    band.value = null
    for (const id of ended.frames.keys()) {
      ghosts.delete(id)
      group(id)?.removeAttribute('transform')
    }
    rehearsed.clear()
    if (ended.kind === 'resize' || ended.kind === 'crop') await bench.show(bench.sideId)
    return true
  }

  let nudged: { gesture: string; until: number; items: string } | null = null

  /** Moves the selection by fine units; strokes in quick succession are one step. */
  function nudge(dx: number, dy: number) {
    const items = bench.selected.filter((p) => !p.item.locked).map((p) => p.item.id)
    if (!items.length) return
    const same = nudged && Date.now() < nudged.until && nudged.items === items.join()
    nudged = { gesture: same ? nudged!.gesture : `nudge-${crypto.randomUUID()}`, until: Date.now() + 900, items: items.join() }
    void bench.act({ act: 'move', items, dx, dy }, nudged.gesture, false)
  }

  async function zoomPicture(factor: number, gesture: string) {
    if (bench.cropping && factor > 0) await bench.act(cropAct(0, 0, factor), gesture, false)
  }

  function startGrip(event: PointerEvent, grip: Grip) {
    begin(event, 'resize', { grip })
    findStops()
  }
  const startTurn = (event: PointerEvent) => begin(event, 'turn')
  const isGoing = () => going !== null

  return {
    ghosts,
    band,
    snapped,
    hovered,
    next,
    grabbing,
    pickBelow,
    settlePick,
    shownFrame,
    under,
    press,
    drag,
    release,
    giveUp,
    nudge,
    zoomPicture,
    startGrip,
    startTurn,
    leave,
    isGoing,
  }
}
