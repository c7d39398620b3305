<script setup lang="ts">
import { ArrowDown, ArrowUp, Eye, EyeOff, Layers2, Lock, LockOpen, PenLine, Square } from '@lucide/vue'
import { ElInput } from 'element-plus'
import { computed, nextTick, ref } from 'vue'
import { api } from '../api/client'
import type { Color, Item, Order, Outline, Paint, Removed } from '../generated/types'
import { useBench, type Plain } from '../stores/bench'
import GuideFields from './GuideFields.vue'
import { useOrder } from '../parts/use-order'

/** Everything on this side from front to back. */
const bench = useBench()

const list = computed(() =>
  [...(bench.side?.items ?? [])]
    .toReversed()
    .map((item) => bench.plain(item.id))
    .filter((p): p is Plain => p !== null),
)
const name = (p: Plain) => bench.names.get(p.item.id) ?? ''

function tone(paint: Paint | null): Color {
  if (!paint) return 'transparent'
  const tint =
    paint.kind === 'flat'
      ? paint.tint
      : 'stops' in paint
        ? (paint.stops[0]?.tint ?? '#888888')
        : paint.kind === 'pattern'
          ? paint.ink
          : '#888888'
  return tint.startsWith('@') ? (bench.job?.swatches[tint.slice(1)]?.color ?? '#888888') : tint
}

/** A shape or a graphic as it is drawn, so that rows are told apart; what is very intricate shows its colour alone. */
function small(p: Plain): { svg: string; box: string } | null {
  const drawn = bench.drawn.get(p.item.id)
  if (!drawn || drawn.svg.length > 20_000) return null
  const { x, y, w, h } = drawn.frame
  const room = Math.max(w, h) * 0.08 + 1
  return { svg: drawn.svg, box: `${x - room} ${y - room} ${w + 2 * room} ${h + 2 * room}` }
}

const order = (p: Plain, order: Order) => bench.act({ act: 'reorder', items: [p.item.id], order })

/** The item whose name is being typed. */
const renaming = ref<string | null>(null)
const wanted = ref('')
const field = ref<InstanceType<typeof ElInput>[]>([])

async function rename(p: Plain) {
  wanted.value = name(p)
  renaming.value = p.item.id
  await nextTick()
  field.value[0]?.select()
}

function named(p: Plain) {
  if (renaming.value !== p.item.id) return
  renaming.value = null
  const now = wanted.value.trim()
  if (now === (p.item.name ?? '') || (!p.item.name && now === name(p))) return
  void bench.act({ act: 'nameItem', item: p.item.id, name: now || null })
}

function nameKey(event: Event | KeyboardEvent, p: Plain) {
  event.stopPropagation()
  if (!(event instanceof KeyboardEvent)) return
  if (event.key === 'Enter') named(p)
  if (event.key === 'Escape') renaming.value = null
}

/** The list shows the front first: a row let go below another lies right behind it, at the top in front of everything. */
const rows = ref<HTMLElement>()
useOrder(rows, (from, to) => {
  const ids = list.value.map((p) => p.item.id)
  const [item] = ids.splice(from, 1)
  if (item) void bench.act({ act: 'putBelow', item, other: ids[to - 1] ?? null })
})

const tray = computed(() => [...(bench.piece?.tray ?? [])].toReversed())

const removedName = (removed: Removed) => bench.names.get(removed.item.id) ?? ''

async function putBack(removed: Removed) {
  const response = await bench.act({ act: 'putBack', piece: bench.piece!.id, item: removed.item.id })
  if (response) bench.selection = response.made.filter((id) => bench.order.includes(id))
}

function flag(item: Item, change: Partial<Pick<Item, 'locked' | 'hidden'>>) {
  void bench.act({ act: 'setFlags', items: [item.id], ...change })
}

function pick(p: Plain, event: MouseEvent) {
  if (bench.pointing && bench.pointing.what !== 'colour') {
    const { take } = bench.pointing
    const frame = bench.drawn.get(p.item.id)?.frame
    bench.pointing = null
    return take(p.item.id, { x: (frame?.x ?? 0) + (frame?.w ?? 0) / 2, y: (frame?.y ?? 0) + (frame?.h ?? 0) / 2 })
  }
  const has = bench.selection.includes(p.item.id)
  if (event.shiftKey) bench.selection = has ? bench.selection.filter((id) => id !== p.item.id) : [...bench.selection, p.item.id]
  else bench.selection = [p.item.id]
}

const shapes: { label: string; outline: Outline; draw: string }[] = [
  { label: 'Line', outline: { kind: 'line' }, draw: 'M3 12h18' },
  { label: 'Rectangle', outline: { kind: 'rect', radius: 0 }, draw: 'M3 5h18v14H3z' },
  { label: 'Ellipse', outline: { kind: 'ellipse' }, draw: 'M3 12a9 8 0 1 0 18 0a9 8 0 1 0 -18 0' },
  { label: 'Arch', outline: { kind: 'arch' }, draw: 'M5 21V10a7 7 0 0 1 14 0V21z' },
  { label: 'Polygon', outline: { kind: 'polygon', points: 6 }, draw: 'M12 3l8 4.5v9L12 21l-8-4.5v-9z' },
  {
    label: 'Star',
    outline: { kind: 'star', points: 5, depth: 600_000_000 },
    draw: 'M12 3l2.5 6.5 6.5.5-5 4.3 1.6 6.7L12 17.5 6.4 21 8 14.3 3 10l6.5-.5z',
  },
  {
    label: 'Seal',
    outline: { kind: 'star', points: 24, depth: 120_000_000 },
    draw: 'M12 2l2 2.4 3-1 .8 3 3 .9-.9 3L22 12l-2.1 1.7.9 3-3 .9-.8 3-3-1-2 2.4-2-2.4-3 1-.8-3-3-.9.9-3L2 12l2.1-1.7-.9-3 3-.9.8-3 3 1z',
  },
  {
    label: 'Ring',
    outline: { kind: 'ring', thickness: 250_000_000 },
    draw: 'M3 12a9 9 0 1 0 18 0a9 9 0 1 0 -18 0M8 12a4 4 0 1 0 8 0a4 4 0 1 0 -8 0',
  },
  {
    label: 'Arc',
    outline: { kind: 'sector', start: -90_000_000, sweep: 180_000_000, thickness: 250_000_000 },
    draw: 'M3 16a9 9 0 0 1 18 0h-4a5 5 0 0 0-10 0z',
  },
  { label: 'Arrow', outline: { kind: 'arrow', head: 700_000_000, shaft: 420_000_000 }, draw: 'M3 9.5h9V5l9 7-9 7v-4.5H3z' },
  {
    label: 'Speech panel',
    outline: { kind: 'speech', tail: 200_000_000 },
    draw: 'M5 4h14a2 2 0 0 1 2 2v8a2 2 0 0 1-2 2h-9l-4 4v-4H5a2 2 0 0 1-2-2V6a2 2 0 0 1 2-2z',
  },
  { label: 'Ribbon', outline: { kind: 'ribbon', notch: 350_000_000 }, draw: 'M2 7h20l-3 5 3 5H2l3-5z' },
  { label: 'Ticket', outline: { kind: 'ticket', bite: 180_000_000 }, draw: 'M3 6h18v4a2 2 0 0 0 0 4v4H3v-4a2 2 0 0 0 0-4z' },
  { label: 'Blob', outline: { kind: 'blob', seed: 3 }, draw: 'M9 4c4-2 9 0 10 4s3 6 0 10-9 3-12 1-4-6-3-9 2-5 5-6z' },
  {
    label: 'Torn strip',
    outline: { kind: 'torn', seed: 5, depth: 220_000_000 },
    draw: 'M3 8l3-2 3 2 3-1 3 1 3-2 3 2v8l-3 1-3-1-3 2-3-2-3 1-3-1z',
  },
]

const add = (outline: Outline) => bench.add({ kind: 'shape', outline })

/** Something over the whole side that treats all below it, opened in the darkroom at once. */
async function over() {
  const response = bench.sideId ? await bench.act({ act: 'addOver', side: bench.sideId }) : null
  const item = response?.made[0]
  if (!item) return
  bench.selection = [item]
  bench.darkroom = { item }
}
</script>

<template>
  <section aria-labelledby="layout-title">
    <div class="panel-head">
      <h2 id="layout-title">Layout</h2>
    </div>
    <GuideFields v-if="bench.piece" />
    <h3>Add a shape</h3>
    <div class="shapes">
      <span class="add" role="group" aria-label="Add a shape">
        <button v-for="shape in shapes" :key="shape.label" class="tool" :aria-label="`Add: ${shape.label}`" @click="add(shape.outline)">
          <svg viewBox="0 0 24 24" width="17" height="17" aria-hidden="true">
            <path :d="shape.draw" fill="none" stroke="currentColor" stroke-width="1.7" />
          </svg>
        </button>
        <button
          class="tool"
          aria-label="Add: Panel over the whole sheet, at the very back"
          data-tip="Panel over the whole sheet, at the very back"
          @click="bench.add({ kind: 'panel' })">
          <Square :size="17" />
        </button>
        <button
          class="tool"
          aria-label="Add: Over everything, to treat all below it"
          data-tip="Over everything: treats all that lies below it"
          @click="over">
          <Layers2 :size="17" />
        </button>
        <button class="tool" aria-label="Draw by hand" @click="bench.draw(true)"><PenLine :size="17" /></button>
      </span>
    </div>
    <p v-if="!list.length" class="quiet">This side is empty. Add a shape here, a text under Words, or a picture under Pictures.</p>
    <h3 v-else>Front to back</h3>
    <ol ref="rows">
      <li v-for="p in list" :key="p.item.id" :class="{ chosen: bench.selection.includes(p.item.id), hidden: p.item.hidden }">
        <ElInput
          v-if="renaming === p.item.id"
          ref="field"
          v-model="wanted"
          size="small"
          aria-label="Name of the item"
          maxlength="200"
          @blur="named(p)"
          @keydown="nameKey($event, p)" />
        <button
          v-else
          class="row"
          :aria-pressed="bench.selection.includes(p.item.id)"
          title="Double-click or F2 to rename; drag to reorder"
          @click="pick(p, $event)"
          @dblclick="rename(p)"
          @keydown.f2.prevent="rename(p)">
          <span class="sign">
            <img v-if="p.content.kind === 'picture' && p.content.picture" :src="api.media(p.content.picture, 160)" alt="" />
            <b v-else-if="p.content.kind === 'words'" :style="{ fontFamily: 'serif' }">A</b>
            <svg v-else-if="small(p)" :viewBox="small(p)!.box" aria-hidden="true" v-html="small(p)!.svg" />
            <i v-else :style="{ background: tone(p.look.fill), borderColor: p.look.stroke ? tone(p.look.stroke.paint) : 'var(--rule)' }" />
          </span>
          <span class="text">{{ name(p) }}</span>
        </button>
        <span class="tools">
          <button class="tool" :aria-label="`Forward: ${name(p)}`" @click="order(p, 'forward')"><ArrowUp :size="14" /></button>
          <button class="tool" :aria-label="`Back: ${name(p)}`" @click="order(p, 'back')"><ArrowDown :size="14" /></button>
        </span>
        <button
          class="tool"
          :class="{ set: p.item.locked }"
          :aria-label="`${p.item.locked ? 'Unlock' : 'Lock'}: ${name(p)}`"
          @click="flag(p.item, { locked: !p.item.locked })">
          <Lock v-if="p.item.locked" :size="14" /><LockOpen v-else :size="14" />
        </button>
        <button
          class="tool"
          :class="{ set: p.item.hidden }"
          :aria-label="`${p.item.hidden ? 'Show' : 'Hide'}: ${name(p)}`"
          @click="flag(p.item, { hidden: !p.item.hidden })">
          <EyeOff v-if="p.item.hidden" :size="14" /><Eye v-else :size="14" />
        </button>
      </li>
    </ol>
    <template v-if="tray.length">
      <h3 class="tray">Tray</h3>
      <p class="quiet">What was removed from this piece. It goes back to where it was.</p>
      <ol>
        <li v-for="removed in tray" :key="removed.item.id">
          <span class="row"
            ><span class="text">{{ removedName(removed) }}</span></span
          >
          <button class="act" :aria-label="`Put back: ${removedName(removed)}`" @click="putBack(removed)">Put back</button>
        </li>
      </ol>
    </template>
  </section>
</template>

<style scoped>
.shapes {
  margin: 4px -6px 14px;
}

ol {
  margin: 6px -8px 0;
}

li {
  display: flex;
  align-items: center;
  padding: 0 4px 0 8px;
  border-radius: 3px;
}

li:hover {
  background: var(--paper-3);
}

li.chosen {
  background: var(--paper-3);
  box-shadow: inset 3px 0 var(--ink);
}

li.lifted {
  opacity: 0.35;
}

li.hidden .row {
  opacity: 0.45;
}

.row {
  display: flex;
  align-items: center;
  gap: 8px;
  flex: 1;
  min-width: 0;
  height: 34px;
  text-align: left;
}

.sign {
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  flex: none;
}

.sign img {
  width: 24px;
  height: 24px;
  object-fit: cover;
}

.sign svg {
  width: 24px;
  height: 24px;
  background: var(--stage);
}

.sign i {
  width: 20px;
  height: 16px;
  border: 1.5px solid var(--rule);
}

h3.tray {
  margin-top: 22px;
}

li .act {
  height: 26px;
  padding: 0 8px;
  font-size: var(--text-1);
}

.text {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

li .tool {
  width: 24px;
  height: 26px;
  color: var(--ink-3);
}

li .tool.set {
  color: var(--ink);
}

.tools {
  display: none;
}

li:hover .tools,
li:focus-within .tools,
li.chosen .tools {
  display: flex;
}
</style>
