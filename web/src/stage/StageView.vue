<script setup lang="ts">
import { useDropZone, useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, onMounted, onUnmounted, ref, toRef, watch } from 'vue'
import { api } from '../api/client'
import type { Clipping, LetterStyle } from '../generated/types'
import { FINE_PER_CSS_PX, toFine } from '../measures'
import { useRouter } from 'vue-router'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useShelf } from '../stores/shelf'
import SelectionBar from '../arrange/SelectionBar.vue'
import FindingMarks from '../check/FindingMarks.vue'
import FormatMarks from './FormatMarks.vue'
import GuideMarks from './GuideMarks.vue'
import LoupeLayer from './LoupeLayer.vue'
import PenLayer from './PenLayer.vue'
import SelectionMarks from './SelectionMarks.vue'
import SnapMarks from './SnapMarks.vue'
import SheetDrawing from './SheetDrawing.vue'
import StageMenu from './StageMenu.vue'
import TypingLayer from './TypingLayer.vue'
import ViewBar, { type Shown } from './ViewBar.vue'
import { around, type Dot } from './geometry'
import { useFingers } from './use-fingers'
import { useGestures } from './use-gestures'
import { useViewport } from './use-viewport'

const bench = useBench()
const shelf = useShelf()
const notices = useNotices()
const element = ref<HTMLElement>()
const typingLayer = ref<InstanceType<typeof TypingLayer> | null>(null)
const viewport = useViewport(element, toRef(bench, 'sheet'))
const gestures = useGestures(element, viewport, typingLayer)
const fingers = useFingers(element, viewport, () => void gestures.giveUp())
const router = useRouter()
/** Every second side is a back, seen from behind. */
const back = computed(() => (bench.piece?.sides.findIndex((side) => side.id === bench.sideId) ?? 0) % 2 === 1)
/** What lies behind this side on the same paper. */
const behind = computed(() => {
  const sides = bench.piece?.sides ?? []
  const at = sides.findIndex((side) => side.id === bench.sideId)
  return sides[back.value ? at - 1 : at + 1] ?? null
})
const shown = useLocalStorage<Shown>('vatman-shown', { outside: true, edges: true, lines: true, rulers: false })
const space = ref(false)

/** Comes back to a side as it was last looked at. */
function comeBack() {
  const before = bench.sideId ? bench.views.get(bench.sideId) : undefined
  if (before && !before.fitted) Object.assign(viewport.view, before)
  else viewport.fit()
}
onMounted(() => requestAnimationFrame(comeBack))
watch(
  () => bench.sideId,
  async (now, before) => {
    if (before) bench.views.set(before, { ...viewport.view })
    viewport.view.fitted = true
    await nextTick()
    if (now) comeBack()
  },
  { flush: 'sync' },
)
onUnmounted(() => {
  if (bench.sideId) bench.views.set(bench.sideId, { ...viewport.view })
})

const frames = computed(() =>
  bench.selection.flatMap((id) => {
    const frame = gestures.shownFrame(id)
    return frame ? [{ id, frame }] : []
  }),
)
const hover = computed(() => {
  const id = gestures.next.value ?? gestures.hovered.value
  if (!id || bench.selection.includes(id)) return null
  // What would be picked: with it, the rest of its group.
  const all = bench.withGroup(id).flatMap((member) => bench.drawn.get(member)?.frame ?? [])
  return all.length > 1 ? around(all) : (all[0] ?? null)
})
const grips = computed(() => {
  if (!turns.value) return 'none'
  return bench.only ? (bench.drawn.get(bench.only.item.id)?.handles ?? 'all') : 'corners'
})
const turns = computed(() => bench.selected.length > 0 && bench.selected.every((p) => !p.item.locked) && !bench.typing && !bench.cropping)

/** The picture being moved in its frame: dimmed where the frame hides it, and above that as it will be seen. */
const ghost = computed(() => {
  const svg = bench.cropping ? bench.drawn.get(bench.cropping)?.svg : undefined
  return svg ?? null
})

/** The frame in thirds, to move the picture by. */
const thirds = computed(() => {
  const frame = bench.cropping ? bench.drawn.get(bench.cropping)?.frame : undefined
  if (!frame) return null
  const across = [1, 2].map((n) => `M${frame.x + (frame.w * n) / 3} ${frame.y}v${frame.h}`)
  const down = [1, 2].map((n) => `M${frame.x} ${frame.y + (frame.h * n) / 3}h${frame.w}`)
  return { path: [...across, ...down].join(''), turned: `rotate(${frame.turn} ${frame.x + frame.w / 2} ${frame.y + frame.h / 2})` }
})

const cursor = computed(() => {
  if (bench.pointing) return 'crosshair'
  if (space.value || gestures.grabbing.value) return gestures.grabbing.value ? 'grabbing' : 'grab'
  if (bench.typing && gestures.hovered.value === null) return 'text'
  return bench.cropping ? 'move' : gestures.hovered.value ? 'pointer' : 'default'
})

const transform = computed(() => {
  const { x, y, scale } = viewport.view
  return `translate(${x} ${y}) scale(${scale})`
})

/** A double press opens what is selected, words to be typed, a picture to be moved in its frame; what cannot be opened lets the one below be picked. */
function openUnder(event: MouseEvent) {
  const stack = gestures.under(event)
  const id = stack.find((one) => bench.selection.includes(one)) ?? stack[0]
  const content = id ? bench.plain(id)?.content : undefined
  if (!id || !content || bench.typing === id) return
  if (bench.enter(id)) {
    // One double press reaches the picture in a cell.
    if (content.kind === 'picture' && content.picture && bench.withGroup(id).length === 1) crop(id)
    return
  }
  if (content.kind === 'words') void bench.type(id)
  else if (content.kind === 'picture' && content.picture) crop(id)
  else gestures.pickBelow(event)
}

function crop(id: string) {
  bench.typing = null
  bench.selection = [id]
  bench.cropping = id
}

const menu = ref<InstanceType<typeof StageMenu>>()

/** The right button; what lies under it is selected unless it is already. */
function openMenu(event: MouseEvent) {
  if (bench.typing || bench.cropping) return
  void gestures.giveUp()
  void menu.value?.show(event, gestures.under(event))
}

let wheelGesture = { id: '', until: 0 }

function wheel(event: WheelEvent) {
  const box = element.value!.getBoundingClientRect()
  const at: Dot = { x: event.clientX - box.left, y: event.clientY - box.top }
  if (event.ctrlKey || event.metaKey) viewport.zoom(Math.exp(-event.deltaY * 0.0022), at)
  else if (bench.cropping) zoomPicture(Math.exp(-event.deltaY * 0.0015))
  else viewport.pan(event.shiftKey ? -event.deltaY : -event.deltaX, event.shiftKey ? 0 : -event.deltaY)
}

function zoomPicture(factor: number) {
  if (Date.now() > wheelGesture.until) wheelGesture = { id: `crop-${crypto.randomUUID()}`, until: 0 }
  wheelGesture.until = Date.now() + 800
  void gestures.zoomPicture(factor, wheelGesture.id)
}

const step = computed(() => {
  const unit = bench.piece?.format.unit ?? 'px'
  const ppi = bench.piece?.format.ppi ?? 96
  return { px: (96 * FINE_PER_CSS_PX) / ppi, pt: 12_700, mm: 36_000, cm: 36_000, in: 9_144 }[unit]
})

const isField = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.matches('input, textarea, select, [contenteditable]') || !!target.closest('[role="slider"], [role="dialog"], [role="listbox"]'))

function keyDown(event: KeyboardEvent) {
  if (isField(event.target) || !bench.job) return
  if (bench.typing) {
    if (event.key === 'Escape') escape()
    // While words are typed, keys belong to them, wherever the last press was; those that go through the page and work its buttons stay.
    else if (
      !['Tab', 'Enter', ' ', 'Shift', 'Control', 'Alt', 'Meta'].includes(event.key) &&
      !(event.target as Element).closest('[role="menu"]')
    )
      bench.goOnTyping()
    return
  }
  if (event.key === 'Delete' || event.key === 'Backspace' || event.key.length === 1) gestures.settlePick()
  const command = event.ctrlKey || event.metaKey
  const key = event.key.toLowerCase()
  const arrows: Record<string, [number, number]> = { arrowleft: [-1, 0], arrowright: [1, 0], arrowup: [0, -1], arrowdown: [0, 1] }
  const arrow = arrows[key]
  if (key === ' ' && (event.target === element.value || event.target === document.body)) {
    space.value = true
  } else if (arrow && bench.selection.length) {
    const by = step.value * (event.shiftKey ? 10 : 1)
    if (bench.cropping) void bench.act({ act: 'crop', item: bench.cropping, dx: arrow[0] * by, dy: arrow[1] * by, factor: 1 })
    else gestures.nudge(Math.round(arrow[0] * by), Math.round(arrow[1] * by))
  } else if (key === 'delete' || key === 'backspace') remove()
  else if ((key === 'pageup' || key === 'pagedown') && bench.selection.length)
    void bench.reorder(key === 'pageup' ? (event.shiftKey ? 'front' : 'forward') : event.shiftKey ? 'bottom' : 'back')
  else if (command && key === 'g' && bench.selection.length) {
    const act = event.shiftKey ? 'ungroup' : 'group'
    void bench.act({ act, items: bench.selection })
  } else if (command && !event.shiftKey && !event.altKey && letterStyles[key] && bench.only?.content.kind === 'words')
    toggleWords(letterStyles[key]!)
  else if (command && key === 'd') void bench.duplicate()
  else if (command && event.altKey && key === 'v' && clipping.value && bench.selection.length)
    void bench.act({ act: 'pasteLook', items: bench.selection, clipping: clipping.value })
  else if (command && key === 'z') void bench.act({ act: event.shiftKey ? 'redo' : 'undo' })
  else if (command && key === 'y') void bench.act({ act: 'redo' })
  else if (command && key === 'a' && event.target === element.value)
    bench.selection = bench.order.filter((id) => !bench.plain(id)?.item.locked)
  else if (key === 'enter' && bench.only && (event.target === element.value || event.target === document.body)) openOnly()
  else if (key === '+' || key === '=') viewport.zoom(1.25)
  else if (key === '-') viewport.zoom(0.8)
  else if (key === '0') viewport.fit()
  else if (key === '1' && !command) viewport.zoom(1 / viewport.view.scale)
  else if (key === 'escape') escape()
  else return
  event.preventDefault()
}

const letterStyles: Record<string, LetterStyle> = { b: 'bold', i: 'italic', u: 'underline' }

/** Turns a style of all letters of the selected words over. */
function toggleWords(style: LetterStyle) {
  const only = bench.only
  if (only?.content.kind !== 'words') return
  const to = only.content.text.reduce((sum, run) => sum + run.text.length, 0)
  if (to) void bench.act({ act: 'toggleLetters', item: only.item.id, from: 0, to, style })
}

function openOnly() {
  const only = bench.only
  if (only?.content.kind === 'words') void bench.type(only.item.id)
  else if (only?.content.kind === 'picture' && only.content.picture) bench.cropping = only.item.id
}

function escape() {
  void gestures.giveUp().then((gaveUp) => {
    if (gaveUp) return
    if (bench.pointing) bench.pointing = null
    else if (bench.pen) void bench.draw(false)
    else if (bench.typing || bench.cropping) gestures.leave()
    else if (bench.entered) bench.entered = null
    else bench.selection = []
  })
}

function remove() {
  const items = bench.selected.filter((p) => !p.item.locked).map((p) => p.item.id)
  if (!items.length) return
  const [first] = items
  const piece = bench.piece?.id
  // What all of them share may still stand in other sizes: taking it off there is offered, never done unasked.
  const kins = new Set(bench.selected.filter((p) => items.includes(p.item.id)).map((p) => p.item.kin))
  void gestures.giveUp()
  bench.selection = []
  void bench.act({ act: 'remove', items }).then((response) => {
    if (!response || !first || !piece) return
    const say =
      items.length > 1
        ? `${items.length} items were removed. They wait in the tray under Layout.`
        : 'Removed. It waits in the tray under Layout.'
    const others = (bench.job?.pieces ?? [])
      .filter((one) => one.id !== piece)
      .flatMap((one) => one.sides)
      .flatMap((side) => side.items)
      .filter((item) => kins.has(item.kin))
      .map((item) => item.id)
    const everywhere = others.length
      ? { label: 'Remove in all sizes', run: () => void bench.act({ act: 'removeEverywhere', items: others }) }
      : undefined
    const waits = () => !!bench.job?.pieces.find((one) => one.id === piece)?.tray.some((removed) => removed.item.id === first)
    const replace = {
      label: 'Replace with…',
      run: () => {
        bench.replacing = { piece, item: first }
        void router.push({ name: 'bench', params: { job: bench.job!.id, step: 'pictures' } })
      },
    }
    if (items.length === 1) notices.say(say, { while: waits, action: replace, other: everywhere })
    else notices.say(say, everywhere ? { while: waits, action: everywhere } : {})
  })
}

function zoomToSelection() {
  const box = around(bench.selection.flatMap((id) => bench.drawn.get(id)?.frame ?? []))
  if (!box) return
  const { width, height, view } = viewport
  viewport.zoom(Math.min((width.value - 120) / box.w, (height.value - 120) / box.h) / view.scale)
  const c = viewport.toScreen({ x: box.x + box.w / 2, y: box.y + box.h / 2 })
  viewport.pan(width.value / 2 - c.x, height.value / 2 - c.y)
}

/** What has been copied, also for other jobs in this browser. */
const clipping = useLocalStorage<Clipping | null>('vatman-clipping', null, {
  serializer: { read: (text) => JSON.parse(text) as Clipping, write: JSON.stringify },
})

/** The words of what was copied, which the system's clipboard holds meanwhile: pasted text that differs comes from elsewhere. */
const clippedText = useLocalStorage('vatman-clipping-text', '')

async function copy(event: ClipboardEvent, cut: boolean) {
  if (isField(event.target) || !bench.job || !bench.selection.length) return
  event.preventDefault()
  await takeCopy(cut, (text) => event.clipboardData?.setData('text/plain', text))
}

async function takeCopy(cut: boolean, tell: (text: string) => void) {
  if (!bench.job || !bench.selection.length) return
  const words = bench.selected
    .flatMap((p) => (p.content.kind === 'words' ? [p.content.text.map((run) => run.text).join('')] : []))
    .join('\n')
  clippedText.value = words || `${bench.selection.length} items`
  tell(clippedText.value)
  try {
    clipping.value = await api.clipping(bench.job.id, bench.selection)
    if (cut) remove()
  } catch (error) {
    notices.report(error)
  }
}

async function pasteItems() {
  if (!clipping.value || !bench.sideId) return
  const response = await bench.act({ act: 'paste', side: bench.sideId, clipping: clipping.value })
  if (response) bench.selection = response.made
}

const isFrame = (id: string | undefined) => !!id && bench.plain(id)?.content.kind === 'picture'
const frameAt = (at: { clientX: number; clientY: number }) => gestures.under(at).find(isFrame)

/** A place of the window as an exact place on the sheet. */
function spot(at: { clientX: number; clientY: number }) {
  const box = element.value!.getBoundingClientRect()
  const p = viewport.toSheet({ x: at.clientX - box.left, y: at.clientY - box.top })
  return { x: toFine(p.x), y: toFine(p.y) }
}

/** A picture fills the frame it was let go on, or an empty one that is selected; else it stands on its own where it was let go. */
async function place(picture: string, at?: { clientX: number; clientY: number }) {
  const only = bench.only
  const empty = !at && only?.content.kind === 'picture' && !only.content.picture ? only.item.id : undefined
  const target = bench.replacing ? undefined : ((at ? frameAt(at) : undefined) ?? empty)
  if (!target) return bench.add({ kind: 'picture', picture }, undefined, at && spot(at))
  await bench.act({ act: 'show', item: target, picture })
  bench.selection = [target]
}

/** While a picture is dragged over a frame, the frame is outlined. */
function over(event: DragEvent) {
  const frame = frameAt(event)
  gestures.hovered.value = frame ?? null
}

const isDrawing = (file: File) => file.type === 'image/svg+xml' || file.name.endsWith('.svg')

/** Words from elsewhere arrive as a text of their own. */
async function pasteWords(text: string) {
  await bench.add({ kind: 'words', part: 'detail', text })
}

async function drop(event: DragEvent) {
  gestures.hovered.value = null
  const frame = event.dataTransfer?.getData('application/x-frame')
  if (frame) {
    const onto = gestures.under(event).find((id) => id !== frame && bench.plain(id)?.content.kind === 'picture')
    if (onto) await bench.act({ act: 'swapPictures', a: frame, b: onto })
    return
  }
  const shelved = event.dataTransfer?.getData('application/x-shelf-picture')
  if (shelved) return place(shelved, event)
  const at = { clientX: event.clientX, clientY: event.clientY }
  const files = [...(event.dataTransfer?.files ?? [])]
  for (const file of files.filter(isDrawing)) await shelf.bringDrawing(file, undefined, spot(at))
  for (const card of await shelf.bring(files.filter((file) => !isDrawing(file)))) await place(card.id, at)
}

const { isOverDropZone: dropping } = useDropZone(element, {
  onOver: (_, event) => over(event),
  onLeave: () => {
    gestures.hovered.value = null
  },
  onDrop: (_, event) => void drop(event),
})
useEventListener(window, 'keydown', keyDown)
useEventListener(window, 'keyup', (event: KeyboardEvent) => {
  if (event.key === ' ') space.value = false
})
useEventListener(window, 'copy', (event: ClipboardEvent) => void copy(event, false))
useEventListener(window, 'cut', (event: ClipboardEvent) => void copy(event, true))
useEventListener(window, 'paste', async (event: ClipboardEvent) => {
  if (isField(event.target)) return
  const files = [...(event.clipboardData?.files ?? [])]
  const text = event.clipboardData?.getData('text/plain').trim() ?? ''
  if (!files.length && clipping.value && text === clippedText.value.trim()) {
    event.preventDefault()
    return pasteItems()
  }
  if (!files.length && !text) return
  event.preventDefault()
  if (files.length) {
    for (const file of files.filter(isDrawing)) await shelf.bringDrawing(file)
    for (const card of await shelf.bring(files.filter((file) => !isDrawing(file)))) await place(card.id)
  } else if (/^(<\?xml[^>]*>\s*)?(<!--[\s\S]*?-->\s*)*<svg[\s>]/.test(text)) {
    await shelf.bringDrawing(new Blob([text], { type: 'image/svg+xml' }), 'Pasted drawing')
  } else await pasteWords(text)
})

function takeColour(color: string, at: Dot) {
  const take = bench.pointing?.take
  bench.pointing = null
  take?.(color, at)
  element.value?.focus()
}

defineExpose({ place, remove, zoomPicture })
/** Typing is over, and keys are for the sheet again. */
function leaveWords() {
  gestures.leave()
  element.value?.focus()
}
function leavePointing() {
  bench.pointing = null
  element.value?.focus()
}
</script>

<template>
  <div class="frame">
    <div class="strip">
      <SelectionBar @remove="remove" />
      <ViewBar :viewport="viewport" :shown="shown" @show="shown = { ...shown, [$event]: !shown[$event] }" @selection="zoomToSelection" />
    </div>
    <div
      ref="element"
      class="stage"
      tabindex="0"
      role="application"
      aria-label="Stage. Arrow keys move what is selected, Enter edits it, Escape lets go."
      :style="{ cursor }"
      @pointerdown="fingers.down($event) || gestures.press($event, space)"
      @pointermove="fingers.move($event) || gestures.drag($event)"
      @pointerup="fingers.up($event) || gestures.release($event)"
      @pointercancel="(fingers.up($event), gestures.giveUp())"
      @pointerleave="gestures.hovered.value = null"
      @dblclick="openUnder"
      @contextmenu.prevent="openMenu"
      @wheel.prevent="wheel">
      <svg
        class="sheet"
        :class="{ moving: gestures.ghosts.size > 0 }"
        role="img"
        :aria-label="`${bench.piece?.name ?? 'Sheet'}, ${bench.side?.name ?? ''}`">
        <defs>
          <pattern
            id="clear-checks"
            width="16"
            height="16"
            patternUnits="userSpaceOnUse"
            :patternTransform="`scale(${1 / viewport.view.scale})`">
            <rect width="16" height="16" fill="#fff" />
            <path d="M0 0h8v8h8v8H8V8H0z" fill="#d8d8d8" />
          </pattern>
        </defs>
        <g :transform="transform">
          <rect :width="bench.sheet.width" :height="bench.sheet.height" fill="url(#clear-checks)" />
          <SheetDrawing />
          <!-- The other side, seen through the paper: mirrored. -->
          <image
            v-if="shown.through && behind"
            class="through"
            :href="api.sheetPicture(bench.job!.id, behind.id, 900, bench.revision)"
            :width="bench.sheet.width"
            :height="bench.sheet.height"
            :transform="`translate(${bench.sheet.width} 0) scale(-1 1)`"
            opacity="0.38"
            preserveAspectRatio="none" />
        </g>
        <FormatMarks
          v-if="bench.piece"
          :viewport="viewport"
          :piece="bench.piece"
          :edges="shown.edges"
          :outside="shown.outside"
          :cut="shown.cut ?? false"
          :back="back"
          :busy="gestures.ghosts.size > 0" />
        <GuideMarks v-if="bench.piece && shown.lines" :viewport="viewport" :rulers="shown.rulers" />
        <!-- eslint-disable vue/no-v-html -- as in SheetDrawing -->
        <g v-if="ghost" class="ghost" :transform="transform" aria-hidden="true">
          <g opacity="0.28" class="unclipped" v-html="ghost" />
          <g v-html="ghost" />
          <path v-if="thirds" class="thirds" :d="thirds.path" :transform="thirds.turned" />
        </g>
        <SelectionMarks
          :viewport="viewport"
          :frames="frames"
          :hover="hover"
          :grips="grips"
          :crop="ghost !== null"
          :turns="turns"
          @grip="gestures.startGrip"
          @turn="gestures.startTurn" />
        <FindingMarks :viewport="viewport" />
        <SnapMarks
          v-if="gestures.snapped.value && bench.piece"
          :viewport="viewport"
          :snapped="gestures.snapped.value"
          :format="bench.piece.format" />
        <rect
          v-if="gestures.band.value"
          class="band"
          :x="viewport.toScreen(gestures.band.value).x"
          :y="viewport.toScreen(gestures.band.value).y"
          :width="gestures.band.value.w * viewport.view.scale"
          :height="gestures.band.value.h * viewport.view.scale" />
      </svg>
      <TypingLayer v-if="bench.typing" :key="bench.typing" ref="typingLayer" :viewport="viewport" :item="bench.typing" @done="leaveWords" />
      <LoupeLayer v-if="bench.pointing?.what === 'colour'" :viewport="viewport" @take="takeColour" @away="leavePointing" />
      <PenLayer v-if="bench.pen" :viewport="viewport" />
      <StageMenu ref="menu" @open="openOnly" @remove="remove" @paste="pasteItems" @copy="takeCopy($event, () => undefined)" />
      <p v-if="bench.pointing" class="hint">
        {{ bench.pointing.say }} <span v-if="bench.pointing.what !== 'colour'">Its row under Layout works too.</span> Escape gives up.
      </p>
      <p v-if="dropping" class="drop">Let go to place the picture. Over a frame it fills that frame.</p>
      <p v-if="bench.cropping" class="hint">Drag to move the picture in its frame, turn the wheel to scale it. Escape when done.</p>
    </div>
  </div>
</template>

<style scoped>
.thirds {
  fill: none;
  stroke: var(--mark-light);
  stroke-width: 1;
  stroke-dasharray: 3 5;
  vector-effect: non-scaling-stroke;
  mix-blend-mode: difference;
}

.frame {
  display: grid;
  grid-template-rows: 38px minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}

/* Its own place above the stage: it never covers the sheet or a handle. */
.strip {
  container: bar / inline-size;
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 6px;
  padding: 0 6px;
  background: var(--paper);
  border-bottom: 1px solid var(--rule);
}

.stage {
  position: relative;
  background: var(--stage);
  overflow: hidden;
  touch-action: none;
  user-select: none;
}

.stage:focus-visible {
  outline-offset: -3px;
}

/* A layer of its own: caret, fields and marks over it are painted without it. */
.sheet {
  will-change: transform;
  display: block;
  width: 100%;
  height: 100%;
}

.unclipped :deep(*) {
  clip-path: none !important;
}

.ghost {
  pointer-events: none;
}

.band {
  fill: rgb(255 255 255 / 0.14);
  stroke: var(--mark-dark);
  stroke-dasharray: 4 3;
}

.drop,
.hint {
  position: absolute;
  left: 50%;
  top: 14px;
  transform: translateX(-50%);
  padding: 6px 12px;
  border-radius: 3px;
  background: var(--ink);
  color: var(--paper);
  pointer-events: none;
  white-space: nowrap;
}
</style>
