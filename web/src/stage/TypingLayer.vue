<script setup lang="ts">
import { promiseTimeout, useIntervalFn } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, toRef, watch } from 'vue'
import type { Caret, LetterStyle } from '../generated/types'
import { useBench } from '../stores/bench'
import { toLocal, toSheet, type Dot } from './geometry'
import type { Viewport } from './use-viewport'

/**
 * Typing on the sheet. The letters on the stage are the server's own setting; a text field without a face of its own takes the
 * keys, and caret and selection are drawn where the setting says they stand.
 */
const props = defineProps<{ viewport: Viewport; item: string }>()
const emit = defineEmits<{ done: [] }>()

const bench = useBench()
const field = ref<HTMLTextAreaElement>()
/** What is typed in one go and a word long is one step: undo goes back by words and pauses. */
let gesture = ''
let goesOn = 0
let lastKind = ''
const PAUSE = 1_200

function step(kind: string) {
  const now = Date.now()
  if (!gesture || now > goesOn || kind !== lastKind) gesture = `type-${crypto.randomUUID()}`
  goesOn = now + PAUSE
  lastKind = kind
}
const range = toRef(bench, 'range')
const focused = ref(true)

const plain = computed(() => bench.plain(props.item))
const drawn = computed(() => bench.drawn.get(props.item))
const kept = computed(() => {
  const content = plain.value?.content
  return content?.kind === 'words' ? content.text.map((run) => run.text).join('') : ''
})
const typed = ref(kept.value)

onMounted(async () => {
  await nextTick()
  field.value?.focus({ preventScroll: true })
  field.value?.setSelectionRange(0, typed.value.length)
  follow()
})

/** Own changes that have not come back yet. */
let underWay = 0

watch(kept, async (text) => {
  // A change from elsewhere (the list of words, undo), not the echo of what is being typed.
  if (underWay > 0 || typed.value === text) return
  const before = typed.value
  typed.value = text
  // The caret goes to where the change ends.
  const least = Math.min(before.length, text.length)
  let tail = 0
  while (tail < least && before[before.length - 1 - tail] === text[text.length - 1 - tail]) tail += 1
  await nextTick()
  if (document.activeElement === field.value) select(text.length - tail, text.length - tail)
})

function follow() {
  const at = field.value
  if (!at) return
  const [from, to] = range.value
  if (from !== at.selectionStart || to !== at.selectionEnd) range.value = [at.selectionStart, at.selectionEnd]
}

function input(event: Event) {
  follow()
  const p = plain.value
  if (!p) return
  const { inputType = '', data = '' } = event as InputEvent
  step(inputType.startsWith('delete') ? 'delete' : 'insert')
  underWay += 1
  void bench.act({ act: 'say', item: p.item.id, text: typed.value }, gesture).finally(() => {
    underWay -= 1
  })
  // The next word is a step of its own.
  if (/\s/.test(data ?? '') || inputType === 'insertLineBreak' || inputType === 'insertFromPaste') gesture = ''
}

/** The keys come back to the words, with the letters selected that were. */
watch(
  () => bench.typingOn,
  () =>
    void promiseTimeout(0).then(() => {
      const [from, to] = range.value
      const here = document.activeElement
      // A field that is being filled in keeps them.
      if (
        here instanceof HTMLElement &&
        here !== field.value &&
        here.matches('input:not([role=combobox]):not([type=checkbox]):not([type=radio]), textarea')
      )
        return
      select(from, to)
    }),
)

const carets = computed<Caret[]>(() => drawn.value?.carets ?? [])
const caretAt = (offset: number) => carets.value.find((caret) => caret.at === offset) ?? carets.value.at(-1)

interface Row {
  top: number
  bottom: number
  carets: Caret[]
}

const rows = computed<Row[]>(() => {
  const out: Row[] = []
  for (const caret of carets.value) {
    const last = out.at(-1)
    if (last && (caret.turn !== 0 || Math.abs(last.top - caret.top) < 0.5)) last.carets.push(caret)
    else out.push({ top: caret.top, bottom: caret.bottom, carets: [caret] })
  }
  return out
})

/** Places beside a caret's own middle, turned as it is. */
function beside(at: Caret, x: number, y: number): Dot {
  const turn = (at.turn * Math.PI) / 180
  const middle = (at.top + at.bottom) / 2
  return { x: at.x + x * Math.cos(turn) - (y - middle) * Math.sin(turn), y: middle + x * Math.sin(turn) + (y - middle) * Math.cos(turn) }
}

const points = (corners: Dot[]) => {
  const frame = drawn.value?.frame
  return frame
    ? corners
        .map((corner) => props.viewport.toScreen(toSheet(frame, corner)))
        .map((p) => `${p.x},${p.y}`)
        .join(' ')
    : ''
}

const bars = computed(() => {
  const [from, to] = range.value
  if (from === to) return []
  if (carets.value.some((at) => at.turn !== 0)) {
    // On a curve each letter is marked by itself.
    const inside = carets.value.filter((at) => at.at >= from && at.at <= to)
    return inside.slice(1).map((b, i) => {
      const a = inside[i]!
      return points([beside(a, 0, a.top), beside(b, 0, b.top), beside(b, 0, b.bottom), beside(a, 0, a.bottom)])
    })
  }
  return rows.value.flatMap((row, i) => {
    const inside = row.carets.filter((caret) => caret.at >= from && caret.at <= to)
    if (!inside.length) return []
    const xs = inside.map((caret) => caret.x)
    const next = rows.value[i + 1]
    // A row that goes on is marked a little beyond its last letter.
    const past =
      next && (next.carets[0]?.at ?? 0) <= to && (inside.at(-1)?.at ?? 0) === (row.carets.at(-1)?.at ?? -1)
        ? (row.bottom - row.top) * 0.25
        : 0
    const [left, right] = [Math.min(...xs), Math.max(...xs) + past]
    return right > left
      ? [
          points([
            { x: left, y: row.top },
            { x: right, y: row.top },
            { x: right, y: row.bottom },
            { x: left, y: row.bottom },
          ]),
        ]
      : []
  })
})

const caret = computed(() => {
  const [from, to] = range.value
  const at = from === to ? caretAt(to) : undefined
  return at ? points([beside(at, 0, at.top), beside(at, 0, at.bottom)]) : ''
})

function offsetAt(client: Dot): number {
  const frame = drawn.value?.frame
  if (!frame || !rows.value.length) return 0
  const p = toLocal(frame, props.viewport.toSheet(client))
  if (carets.value.some((at) => at.turn !== 0)) {
    const far = (at: Caret) => Math.hypot(at.x - p.x, (at.top + at.bottom) / 2 - p.y)
    return carets.value.reduce((best, at) => (far(at) < far(best) ? at : best)).at
  }
  const row = rows.value.find((r) => p.y < r.bottom) ?? rows.value.at(-1)!
  return row.carets.reduce((best, caret) => (Math.abs(caret.x - p.x) < Math.abs(best.x - p.x) ? caret : best)).at
}

let anchor: number | null = null
let presses = { count: 0, until: 0, x: 0, y: 0 }

/** The word, or the paragraph, that an offset lies in. */
function around(at: number, paragraph: boolean): [number, number] {
  const stops = paragraph ? /\n/ : /[^\p{L}\p{N}\p{M}'’-]/u
  const text = typed.value
  let from = Math.min(at, text.length)
  // Between words the one before is meant.
  if (!paragraph && (from === text.length || stops.test(text[from]!))) while (from > 0 && stops.test(text[from - 1]!)) from -= 1
  let to = from
  while (from > 0 && !stops.test(text[from - 1]!)) from -= 1
  while (to < text.length && !stops.test(text[to]!)) to += 1
  return [from, to]
}

/** A press inside the text sets the caret, a second one selects the word, a third one the paragraph; dragging selects. */
function press(client: Dot, extend: boolean) {
  const at = offsetAt(client)
  const now = Date.now()
  const same = now < presses.until && Math.hypot(client.x - presses.x, client.y - presses.y) < 5
  presses = { count: same ? presses.count + 1 : 1, until: now + 450, x: client.x, y: client.y }
  if (presses.count > 1 && !extend) {
    anchor = null
    return select(...around(at, presses.count > 2))
  }
  anchor = extend ? range.value[0] : at
  select(anchor, at)
}

function drag(client: Dot) {
  if (anchor !== null) select(anchor, offsetAt(client))
}

function release() {
  anchor = null
}

function select(a: number, b: number) {
  const at = field.value
  if (!at) return
  at.focus({ preventScroll: true })
  at.setSelectionRange(Math.min(a, b), Math.max(a, b), a > b ? 'backward' : 'forward')
  follow()
}

function line(event: KeyboardEvent, by: 1 | -1) {
  const at = field.value
  if (!at) return
  const backward = at.selectionDirection === 'backward'
  const moving = backward ? at.selectionStart : at.selectionEnd
  const fixed = backward ? at.selectionEnd : at.selectionStart
  const here = caretAt(moving)
  const index = rows.value.findIndex((row) => here && row.carets.includes(here))
  const next = rows.value[index + by]
  const target = !here
    ? moving
    : !next
      ? by < 0
        ? 0
        : typed.value.length
      : next.carets.reduce((best, c) => (Math.abs(c.x - here.x) < Math.abs(best.x - here.x) ? c : best)).at
  event.preventDefault()
  select(event.shiftKey ? fixed : target, target)
}

const styles: Record<string, LetterStyle> = { b: 'bold', i: 'italic', u: 'underline' }

/** Turns a style of the selected letters over, or of the word the caret is in. */
function toggle(style: LetterStyle) {
  const p = plain.value
  const [from, to] = range.value[0] === range.value[1] ? around(range.value[1], false) : range.value
  if (p && from !== to) void bench.act({ act: 'toggleLetters', item: p.item.id, from, to, style })
}

function key(event: KeyboardEvent) {
  event.stopPropagation()
  const command = event.ctrlKey || event.metaKey
  if (event.key === 'Escape') emit('done')
  else if (event.key === 'ArrowUp') line(event, -1)
  else if (event.key === 'ArrowDown') line(event, 1)
  else if (command && styles[event.key.toLowerCase()]) {
    event.preventDefault()
    toggle(styles[event.key.toLowerCase()]!)
  } else if (command && event.key.toLowerCase() === 'z') {
    event.preventDefault()
    gesture = ''
    void bench.act({ act: event.shiftKey ? 'redo' : 'undo' })
  } else if (command && event.key.toLowerCase() === 'y') {
    event.preventDefault()
    gesture = ''
    void bench.act({ act: 'redo' })
  } else if (['ArrowLeft', 'ArrowRight', 'Home', 'End'].includes(event.key)) gesture = ''
  void promiseTimeout(0).then(follow)
}

const spot = computed(() => {
  const frame = drawn.value?.frame
  const at = caretAt(range.value[1])
  return frame && at ? props.viewport.toScreen(toSheet(frame, { x: at.x, y: at.top })) : { x: 0, y: 0 }
})

/** The caret blinks by a timer: an animation would have the whole window drawn anew sixty times a second. */
const dim = ref(false)
const blink = useIntervalFn(() => {
  dim.value = !dim.value
}, 550)
watch(range, () => {
  dim.value = false
  blink.resume()
})

defineExpose({ press, drag, release })
</script>

<template>
  <svg class="layer" aria-hidden="true">
    <polygon v-for="(bar, i) in bars" :key="i" :points="bar" class="bar" />
    <polyline v-if="caret && focused" :points="caret" class="caret under" />
    <polyline v-if="caret && focused" :points="caret" class="caret over" :class="{ dim }" />
  </svg>
  <textarea
    ref="field"
    v-model="typed"
    class="keys"
    :style="{ left: `${spot.x}px`, top: `${spot.y}px` }"
    aria-label="Words on the sheet"
    spellcheck="false"
    autocomplete="off"
    autocapitalize="off"
    @input="input"
    @keydown="key"
    @select="follow"
    @focus="focused = true"
    @blur="focused = false"
    @paste.stop
    @copy.stop
    @cut.stop />
</template>

<style scoped>
.layer {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

.bar {
  fill: #7d7d7d;
  fill-opacity: 0.42;
  stroke: var(--mark-light);
  stroke-width: 0.6;
}

.caret {
  fill: none;
}

.caret.under {
  stroke: var(--mark-light);
  stroke-width: 3.5;
}

.caret.over {
  stroke: var(--mark-dark);
  stroke-width: 1.5;
}

.caret.over.dim {
  stroke: var(--mark-light);
}

.keys {
  position: absolute;
  width: 1px;
  height: 1em;
  padding: 0;
  border: 0;
  outline: 0;
  opacity: 0;
  resize: none;
  overflow: hidden;
  white-space: pre;
  pointer-events: none;
}
</style>
