import { defineStore } from 'pinia'
import { computed, ref, shallowReactive, shallowRef } from 'vue'
import { ApiProblem, api } from '../api/client'
import type {
  Act,
  ActResponse,
  Content,
  GuideMark,
  Item,
  Job,
  JobDelta,
  Kin,
  Look,
  LookPatch,
  New,
  Order,
  Piece,
  PieceFrame,
  RunStyle,
  Side,
  StageBunch,
  StageDelta,
  StageItem,
  Tint,
} from '../generated/types'
import { useNotices } from './notices'

export interface Plain {
  item: Item
  part: string
  content: Content
  look: Look
  ownContent: boolean
  ownLook: boolean
}

interface Waiting {
  act: Act
  gesture: string | undefined
  done: (response: ActResponse | null) => void
}

/** Something a person is asked to point at on the stage. */
export interface Pointing {
  say: string
  /** What can be pointed at: an item, a spot of an item, or a colour. */
  what: 'item' | 'spot' | 'colour'
  take: (id: string, at: { x: number; y: number }) => void
}

/** How lines drawn by hand are made. */
export interface Pen {
  thickness: number
  smoothing: number
  thinning: number
  /** What has been drawn since the pen was taken up. */
  made: string[]
}

/** The open job: a copy of its state, the stage, and the one queue through which it changes. */
export const useBench = defineStore('bench', () => {
  const notices = useNotices()

  const job = shallowRef<Job | null>(null)
  const revision = ref(0)
  const keptAt = ref(0)
  const canUndo = ref(false)
  const canRedo = ref(false)
  const sideId = ref<string | null>(null)
  /** The step of the route that was last worked in. */
  const step = ref('words')
  const selection = ref<string[]>([])
  /** The item whose words are being typed, or whose picture is being moved in its frame. */
  const typing = ref<string | null>(null)
  const cropping = ref<string | null>(null)
  /** Letters selected while typing, in UTF-16 units. */
  const range = ref<[number, number]>([0, 0])
  /** The group whose items are picked one by one. */
  const entered = ref<string | null>(null)
  /** The colour last chosen: new items start with it where it reads. */
  const lastTint = ref<Tint | null>(null)
  /** What was taken away and waits for something in its place. */
  const replacing = ref<{ piece: string; item: string } | null>(null)
  /** Pictures chosen for one arrangement, in the order they were chosen; nothing while not choosing. */
  const arranging = ref<string[] | null>(null)
  /** Whether what is chosen from a shelf takes the place of what is selected. */
  const swapping = ref(false)
  const pointing = shallowRef<Pointing | null>(null)
  const pen = ref<Pen | null>(null)
  /** A choice of large specimens that is open beside the stage, in the place of the panel of the step. */
  /** The piece that is shown beside the stage. */
  const beside = ref<string | null>(null)
  /** The item whose picture is in the darkroom. */
  const darkroom = ref<{ item: string; group?: string } | null>(null)
  /** The group that is exactly what is selected, the innermost of several. */
  const pickedGroup = computed<string | null>(() => {
    const items = side.value?.items ?? []
    const picked = new Set(selection.value)
    const of = items.find((item) => picked.has(item.id))?.groups ?? []
    return (
      of.toReversed().find((group) => {
        const members = items.filter((item) => item.groups?.includes(group))
        return members.length === picked.size && members.every((item) => picked.has(item.id))
      }) ?? null
    )
  })
  const chooser = ref<'families' | 'lockUps' | 'designs' | 'repeat' | null>(null)
  /** Goes up whenever the keys are to go to the words being typed again. */
  const typingOn = ref(0)
  /** Whether the stage shows what is only being tried. */
  let tried = false
  let trials = 0
  /** Copies and what they were copied from: copied once more, they go on in the same step. */
  let copied: { made: string[]; from: string } | null = null
  /** How each side was last looked at, so that coming back forgets nothing. */
  const views = new Map<string, { x: number; y: number; scale: number; fitted: boolean }>()
  const saving = ref(0)
  const failed = ref(false)

  const sheet = ref({ width: 0, height: 0, bleed: 0 })
  const ground = ref('')
  const drawn = shallowReactive(new Map<string, StageItem>())
  /** Those of them that would not leave as they are meant. */
  const troubled = shallowReactive(new Map<string, StageItem>())
  const order = ref<string[]>([])
  /** Groups that are drawn by themselves and put down as a whole. */
  const bunches = shallowRef<StageBunch[]>([])
  const reading = ref<string[]>([])
  /** What the items of the side and of the tray are called. */
  const names = shallowReactive(new Map<string, string>())
  /** How thick a line by hand begins on this sheet. */
  const penThickness = ref(1)
  const guides = shallowRef<GuideMark[]>([])
  /** Arrangements of pictures on the side, each as its frames. */
  const arrangements = shallowRef<string[][]>([])
  /** Numbers that change when the picture of a piece does. */
  const stamps = ref<Record<string, number>>({})

  const waiting: Waiting[] = []
  let running = false
  /** The newest revision heard of. */
  let heard = 0
  /** Counts what has been asked for on the stage, so that no older answer takes the place of a newer one. */
  let asked = 0

  const piece = computed<Piece | null>(() => job.value?.pieces.find((p) => p.sides.some((s) => s.id === sideId.value)) ?? null)
  const side = computed<Side | null>(() => piece.value?.sides.find((s) => s.id === sideId.value) ?? null)

  /** A look with what of it is an item's own. */
  function laid(look: Look, own: LookPatch | null | undefined): Look {
    if (!own) return look
    const { type, ...rest } = own
    return { ...look, ...rest, ...(look.type && type ? { type: { ...look.type, ...type } } : {}) } as Look
  }

  function plain(id: string): Plain | null {
    const item = side.value?.items.find((other) => other.id === id)
    const kin = item && job.value?.kins[item.kin]
    if (!item || !kin) return null
    return {
      item,
      part: kin.part,
      content: item.release.content ?? kin.content,
      look: laid(kin.look, item.release.look),
      ownContent: !!item.release.content,
      ownLook: !!item.release.look,
    }
  }

  const selected = computed<Plain[]>(() => selection.value.map(plain).filter((found): found is Plain => found !== null))
  const only = computed<Plain | null>(() => (selected.value.length === 1 ? selected.value[0]! : null))

  /** An item with all that is picked with it: the rest of its outermost group, unless that has been entered. */
  function withGroup(id: string): string[] {
    const groups = (found: Item | undefined) => found?.groups ?? []
    const items = side.value?.items ?? []
    const own = groups(items.find((item) => item.id === id))
    const at = entered.value ? own.indexOf(entered.value) + 1 : 0
    const whole = own[at]
    return whole ? items.filter((item) => groups(item).includes(whole)).map((item) => item.id) : [id]
  }

  /** Goes one group further in, towards an item; whether there was one. */
  function enter(id: string): boolean {
    const own = side.value?.items.find((item) => item.id === id)?.groups ?? []
    const next = own[entered.value ? own.indexOf(entered.value) + 1 : 0]
    if (!next) return false
    entered.value = next
    selection.value = withGroup(id)
    return true
  }

  /** In how many pieces the same item stands. */
  function shownIn(kin: string): number {
    return job.value?.pieces.filter((p) => p.sides.some((s) => s.items.some((item) => item.kin === kin))).length ?? 0
  }

  /** What the letter after an offset has different from the whole. */
  function styleAt(p: Plain, offset: number): RunStyle {
    if (p.content.kind !== 'words') return {}
    let end = 0
    for (const run of p.content.text) {
      end += run.text.length
      if (end > offset) return run.style
    }
    return p.content.text.at(-1)?.style ?? {}
  }

  async function open(id: string) {
    const opened = await api.open(id)
    job.value = opened.job
    revision.value = opened.revision
    keptAt.value = opened.keptAt
    canUndo.value = opened.canUndo
    canRedo.value = opened.canRedo
    failed.value = false
    heard = opened.revision
    stamps.value = Object.fromEntries(opened.job.pieces.map((p) => [p.id, opened.revision]))
    const kept = opened.job.pieces.flatMap((p) => p.sides).find((s) => s.id === sideId.value)
    await show(kept?.id ?? opened.job.pieces[0]?.sides[0]?.id ?? null)
  }

  function close() {
    job.value = null
    step.value = 'words'
    views.clear()
    sideId.value = null
    selection.value = []
    typing.value = cropping.value = pointing.value = pen.value = replacing.value = chooser.value = darkroom.value = null
    drawn.clear()
    troubled.clear()
  }

  async function show(id: string | null) {
    if (!job.value || !id) return
    if (id !== sideId.value) {
      selection.value = []
      typing.value = cropping.value = entered.value = pointing.value = pen.value = null
    }
    const mine = ++asked
    const of = job.value.id
    const stage = await api.stage(of, id)
    // Meanwhile something newer was asked for, or the job was left.
    if (mine !== asked || job.value?.id !== of) return
    sideId.value = id
    drawn.clear()
    troubled.clear()
    names.clear()
    patchStage(stage)
    selection.value = selection.value.filter((item) => order.value.includes(item))
    if (stage.revision > revision.value) hear(stage.revision)
  }

  function patchStage(stage: StageDelta) {
    // What is as it was keeps its identity, so that nothing is drawn anew for it.
    const kept = <T>(old: T, now: T): T => (JSON.stringify(old) === JSON.stringify(now) ? old : now)
    for (const [id, name] of Object.entries(stage.names)) {
      if (name) names.set(id, name)
      else names.delete(id)
    }
    sheet.value = kept(sheet.value, { width: stage.width, height: stage.height, bleed: stage.bleed })
    penThickness.value = stage.pen
    if (stage.ground !== undefined) ground.value = stage.ground
    for (const item of stage.items) {
      drawn.set(item.id, item)
      if (item.findings.length) troubled.set(item.id, item)
      else troubled.delete(item.id)
    }
    if (stage.order) {
      const shown = new Set(stage.order)
      for (const id of drawn.keys()) {
        if (shown.has(id)) continue
        drawn.delete(id)
        troubled.delete(id)
      }
      order.value = kept(order.value, stage.order)
    }
    if (stage.bunches) bunches.value = stage.bunches
    if (stage.reading) reading.value = kept(reading.value, stage.reading)
    if (stage.guides) guides.value = kept(guides.value, stage.guides)
    if (stage.arrangements) arrangements.value = kept(arrangements.value, stage.arrangements)
  }

  function patchJob(delta: JobDelta) {
    const old = job.value
    if (!old) return
    const merge = <T>(from: Record<string, T | undefined>, changes: Record<string, T | null | undefined>) => {
      const out = { ...from }
      for (const [key, value] of Object.entries(changes)) {
        if (value === null || value === undefined) delete out[key]
        else out[key] = value
      }
      return out
    }
    /** A look that is as it was stays the very one there was. */
    const sameLook = (before: Kin | undefined, now: Kin): Kin =>
      before && JSON.stringify(before.look) === JSON.stringify(now.look) ? { ...now, look: before.look } : now
    const changed = new Map(delta.items.map((item) => [item.id, item]))
    const sideOf = (s: Side): Side => {
      if (!delta.order[s.id] && !s.items.some((item) => changed.has(item.id))) return s
      const known = new Map([...s.items.map((item): [string, Item] => [item.id, item]), ...changed])
      const ids = delta.order[s.id] ?? s.items.map((item) => item.id)
      return { ...s, items: ids.map((id) => known.get(id)).filter((item): item is Item => item !== undefined) }
    }
    /** A piece with its frame as it is now, and what was on its sides and in its tray before. */
    const framed = (frame: PieceFrame, was: Piece | undefined): Piece =>
      ({
        ...frame,
        sides: frame.sides.map((side) => ({ ...side, items: was?.sides.find((s) => s.id === side.id)?.items ?? [] })),
        tray: was?.tray ?? [],
      }) as Piece
    const frames = new Map(delta.frames.map((frame) => [frame.id, frame]))
    /** What is as it was keeps its identity, so that nothing is drawn anew for it. */
    const pieceOf = (id: string): Piece | undefined => {
      const was = old.pieces.find((p) => p.id === id)
      const frame = frames.get(id)
      let now = frame ? framed(frame, was) : was
      if (!now) return undefined
      const tray = delta.trays[id]
      if (tray) now = { ...now, tray: [...now.tray.slice(0, tray.at), ...tray.put, ...now.tray.slice(tray.at + tray.taken)] }
      const sides = now.sides.map(sideOf)
      return sides.every((s, i) => s === now.sides[i]) ? now : { ...now, sides }
    }
    job.value = {
      ...old,
      title: delta.title ?? old.title,
      kins: merge(old.kins, Object.fromEntries(Object.entries(delta.kins).map(([id, kin]) => [id, kin && sameLook(old.kins[id], kin)]))),
      swatches: merge(old.swatches, delta.swatches),
      set_aside: delta.setAside ?? old.set_aside ?? {},
      pieces: (delta.pieces ?? old.pieces.map((p) => p.id)).map(pieceOf).filter((p): p is Piece => p !== undefined),
    } as Job
  }

  /**
   * Does something to the job. Acts wait for each other. Acts of one gesture are undone as one; where each says the whole outcome
   * (`newest`), only the newest of those waiting is sent.
   */
  function act(what: Act, gesture?: string, newest = true): Promise<ActResponse | null> {
    return new Promise((done) => {
      const last = waiting.at(-1)
      if (gesture && newest && last?.gesture === gesture) {
        const before = last.done
        last.act = what
        last.done = (response) => {
          before(response)
          done(response)
        }
      } else {
        waiting.push({ act: what, gesture, done })
      }
      void drain()
    })
  }

  const last = () => (lastTint.value ? { last: lastTint.value } : {})

  /** Adds something to the side on the stage, or puts it in the place of what was taken away; it is selected then. */
  async function add(what: New, gesture?: string, at?: { x: number; y: number }): Promise<string[]> {
    if (!sideId.value) return []
    const gone = replacing.value
    replacing.value = null
    const response = gone
      ? await act({ act: 'replaceRemoved', ...gone, what, ...last() }, gesture)
      : await act({ act: 'add', side: sideId.value, what, ...last(), ...(at ? { at } : {}) }, gesture)
    if (response) selection.value = response.made
    return response?.made ?? []
  }

  /** Copies what is selected; again and again in the step between a copy and what it was copied from. */
  async function duplicate(step?: { x: number; y: number }, times?: number) {
    const items = selection.value
    if (!items.length) return
    const goesOn = copied && copied.made.join() === items.join() && side.value?.items.some((item) => item.id === copied!.from)
    const response = await act({
      act: 'duplicate',
      items,
      ...(step ? { step } : goesOn ? { after: copied!.from } : {}),
      ...(times ? { times } : {}),
    })
    if (!response) return
    copied = { made: response.made, from: items[0]! }
    selection.value = response.made
  }

  /** Brings what is selected forward or back. */
  const reorder = (order: Order) => act({ act: 'reorder', items: selection.value, order })

  /** Asks for something to be pointed at. */
  function point(wanted: Pointing) {
    // A colour may be for the letters that are selected.
    if (wanted.what !== 'colour') typing.value = null
    cropping.value = null
    pen.value = null
    pointing.value = wanted
  }

  /** Takes the pen up or puts it down; what was drawn in one go becomes one group. */
  async function draw(on: boolean) {
    const made = (pen.value?.made ?? []).filter((id) => side.value?.items.some((item) => item.id === id))
    typing.value = cropping.value = pointing.value = null
    pen.value = on ? { thickness: penThickness.value, smoothing: 3, thinning: 60, made: [] } : null
    if (on) selection.value = []
    else if (made.length > 1) {
      await act({ act: 'group', items: made })
      selection.value = made
    } else if (made.length) selection.value = made
  }

  async function drain() {
    if (running) return
    running = true
    for (let next = waiting.shift(); next; next = waiting.shift()) next.done(await carryOut(next))
    running = false
    catchUp()
  }

  /** Takes the new state of the job, and of the stage where it is the one that is shown. */
  async function take(response: ActResponse) {
    revision.value = response.revision
    keptAt.value = response.keptAt
    canUndo.value = response.canUndo
    canRedo.value = response.canRedo
    patchJob(response.delta)
    if (response.stage && response.stage.side === sideId.value) patchStage(response.stage)
    for (const id of response.delta.touched) stamps.value[id] = response.revision
    if ((response.delta.pieces || response.delta.frames.length) && !side.value) await show(job.value?.pieces[0]?.sides[0]?.id ?? null)
    selection.value = selection.value.filter((id) => drawn.has(id) || side.value?.items.some((item) => item.id === id))
    const there = (id: string | null) => id !== null && side.value?.items.some((item) => item.id === id)
    if (!there(typing.value)) typing.value = null
    if (!there(cropping.value)) cropping.value = null
  }

  /** Does one act. One that was overtaken by another window is done on the newest state; one that fails takes nothing else with it. */
  async function carryOut(next: Waiting, again = true): Promise<ActResponse | null> {
    const current = job.value
    if (!current) return null
    saving.value += 1
    try {
      const response = await api.act(current.id, {
        base: revision.value,
        act: next.act,
        ...(next.gesture ? { gesture: next.gesture } : {}),
        ...(sideId.value ? { watch: sideId.value } : {}),
        ...(typing.value ? { carets: typing.value } : {}),
      })
      if (job.value?.id !== current.id) return null
      failed.value = false
      await take(response)
      // What was only tried besides is shown as it is again.
      await leaveTrial()
      return response
    } catch (error) {
      if (again && error instanceof ApiProblem && error.problem.type === 'stale') {
        await follow()
        return await carryOut(next, false)
      }
      notices.report(error)
      failed.value = true
      return null
    } finally {
      saving.value -= 1
    }
  }

  /** Brings the copy up to date with what other windows did. */
  async function follow() {
    const current = job.value
    if (!current) return
    const response = await api.since(current.id, revision.value, sideId.value, typing.value)
    if (job.value?.id !== current.id) return
    if (response) await take(response)
    else await open(current.id)
  }

  /** Looks whether something newer was heard of while nothing is under way. */
  function catchUp() {
    if (running || waiting.length || !job.value || heard <= revision.value) return
    running = true
    const before = revision.value
    follow()
      .catch(notices.report)
      .finally(() => {
        running = false
        if (waiting.length) void drain()
        // More may have been heard of meanwhile; where nothing came of it, the next word will try again.
        else if (revision.value !== before) catchUp()
      })
  }

  /** Hears that the job is at a revision. */
  function hear(newest: number) {
    heard = Math.max(heard, newest)
    catchUp()
  }

  /** What an act would look like on the stage, without keeping it. */
  async function rehearse(what: Act): Promise<StageDelta | null> {
    if (!job.value || !sideId.value || running) return null
    try {
      const response = await api.rehearse(job.value.id, { base: revision.value, act: what, watch: sideId.value })
      return response.stage ?? null
    } catch {
      return null
    }
  }

  /** Shows on the stage what an act would lead to, until it is done or left. */
  async function tryOut(what: Act) {
    const mine = ++trials
    const stage = await rehearse(what)
    if (!stage || mine !== trials) return
    tried = true
    patchStage(stage)
  }

  /** Shows what is kept again. */
  async function leaveTrial() {
    trials += 1
    if (!tried) return
    tried = false
    await show(sideId.value)
  }

  /** The keys go to the words being typed again, after a press elsewhere. */
  function goOnTyping() {
    if (typing.value) typingOn.value += 1
  }

  /** Looks whether something has changed, after a while without a connection. */
  async function refresh() {
    if (!job.value || running || waiting.length) return
    await follow().catch(notices.report)
  }

  async function type(id: string | null) {
    range.value = [0, 0]
    typing.value = id
    cropping.value = null
    if (id && job.value && sideId.value) {
      selection.value = [id]
      const mine = ++asked
      const stage = await api.stage(job.value.id, sideId.value, id)
      if (mine === asked && stage.side === sideId.value && stage.revision >= revision.value) patchStage(stage)
    }
  }

  return {
    job,
    revision,
    keptAt,
    canUndo,
    canRedo,
    sideId,
    step,
    piece,
    side,
    selection,
    selected,
    only,
    typing,
    cropping,
    range,
    entered,
    withGroup,
    enter,
    styleAt,
    saving,
    failed,
    sheet,
    ground,
    views,
    drawn,
    troubled,
    order,
    bunches,
    pickedGroup,
    reading,
    names,
    guides,
    arrangements,
    stamps,
    lastTint,
    replacing,
    arranging,
    swapping,
    pointing,
    pen,
    beside,
    chooser,
    darkroom,
    typingOn,
    tryOut,
    leaveTrial,
    goOnTyping,
    add,
    duplicate,
    reorder,
    point,
    draw,
    last,
    open,
    close,
    show,
    act,
    rehearse,
    refresh,
    hear,
    plain,
    shownIn,
    type,
    patchStage,
  }
})
