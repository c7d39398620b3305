<script setup lang="ts">
import { ArrowDown, ArrowUp, Eye, EyeOff, Lock, LockOpen } from '@lucide/vue'
import { computed } from 'vue'
import { api } from '../../api/client'
import type { Color, Item, Outline, Paint } from '../../generated/types'
import { useBench, type Plain } from '../../stores/bench'

/** Everything on this side from front to back. */
const bench = useBench()

const list = computed(() => [...(bench.side?.items ?? [])].reverse().map((item) => bench.plain(item.id)).filter((p): p is Plain => p !== null))
const names: Record<string, string> = { panel: 'Panel', ornament: 'Ornament', picture: 'Picture', mainPicture: 'Main picture' }

function name(p: Plain): string {
  if (p.content.kind === 'words') {
    const text = p.content.text.map((run) => run.text).join('').replace(/\s+/g, ' ').trim()
    return text || p.content.prompt
  }
  return names[p.part] ?? 'Shape'
}

function tone(paint: Paint | null): Color {
  if (!paint) return 'transparent'
  const tint = paint.kind === 'flat' ? paint.tint : (paint.stops[0]?.tint ?? '#888888')
  return tint.startsWith('@') ? (bench.job?.swatches[tint.slice(1)]?.color ?? '#888888') : tint
}

function order(p: Plain, by: 1 | -1) {
  const items = bench.side?.items ?? []
  const index = items.findIndex((item) => item.id === p.item.id) + by
  if (index >= 0 && index < items.length) void bench.edit({ do: 'moveItem', item: p.item.id, index })
}

function flag(item: Item, change: Partial<Pick<Item, 'locked' | 'hidden'>>) {
  void bench.edit({ do: 'setFlags', item: item.id, locked: item.locked, hidden: item.hidden, ...change })
}

function pick(p: Plain, event: MouseEvent) {
  const has = bench.selection.includes(p.item.id)
  if (event.shiftKey) bench.selection = has ? bench.selection.filter((id) => id !== p.item.id) : [...bench.selection, p.item.id]
  else bench.selection = [p.item.id]
}

const shapes: { label: string; outline: Outline; draw: string }[] = [
  { label: 'Rectangle', outline: { kind: 'rect', radius: 0 }, draw: 'M3 5h18v14H3z' },
  { label: 'Ellipse', outline: { kind: 'ellipse' }, draw: 'M3 12a9 8 0 1 0 18 0a9 8 0 1 0 -18 0' },
  { label: 'Arch', outline: { kind: 'arch' }, draw: 'M5 21V10a7 7 0 0 1 14 0V21z' },
  { label: 'Seal', outline: { kind: 'star', points: 24, depth: 120_000_000 }, draw: 'M12 2l2 2.4 3-1 .8 3 3 .9-.9 3L22 12l-2.1 1.7.9 3-3 .9-.8 3-3-1-2 2.4-2-2.4-3 1-.8-3-3-.9.9-3L2 12l2.1-1.7-.9-3 3-.9.8-3 3 1z' },
]

async function add(outline: Outline) {
  if (!bench.sideId) return
  const response = await bench.act({ act: 'add', side: bench.sideId, what: { kind: 'shape', outline } })
  if (response) bench.selection = response.made
}
</script>

<template>
  <section aria-labelledby="layout-title">
    <div class="head">
      <h2 id="layout-title">Layout</h2>
      <span class="add" role="group" aria-label="Add a shape">
        <button v-for="shape in shapes" :key="shape.label" class="tool" :aria-label="`Add: ${shape.label}`" :title="shape.label" @click="add(shape.outline)">
          <svg viewBox="0 0 24 24" width="17" height="17" aria-hidden="true"><path :d="shape.draw" fill="none" stroke="currentColor" stroke-width="1.7" /></svg>
        </button>
      </span>
    </div>
    <p v-if="!list.length" class="quiet">This side is empty. Add a shape here, a text under Words, or a picture under Pictures.</p>
    <h3 v-else>Front to back</h3>
    <ol>
      <li v-for="p in list" :key="p.item.id" :class="{ chosen: bench.selection.includes(p.item.id), hidden: p.item.hidden }">
        <button class="row" :aria-pressed="bench.selection.includes(p.item.id)" @click="pick(p, $event)">
          <span class="sign">
            <img v-if="p.content.kind === 'picture' && p.content.picture" :src="api.media(p.content.picture, 160)" alt="" />
            <b v-else-if="p.content.kind === 'words'" :style="{ fontFamily: 'serif' }">A</b>
            <i v-else :style="{ background: tone(p.look.fill), borderColor: p.look.stroke ? tone(p.look.stroke.paint) : 'var(--rule)' }" />
          </span>
          <span class="text">{{ name(p) }}</span>
        </button>
        <span class="tools">
          <button class="tool" :aria-label="`Forward: ${name(p)}`" @click="order(p, 1)"><ArrowUp :size="14" /></button>
          <button class="tool" :aria-label="`Back: ${name(p)}`" @click="order(p, -1)"><ArrowDown :size="14" /></button>
        </span>
        <button class="tool" :class="{ set: p.item.locked }" :aria-label="`${p.item.locked ? 'Unlock' : 'Lock'}: ${name(p)}`" @click="flag(p.item, { locked: !p.item.locked })"><Lock v-if="p.item.locked" :size="14" /><LockOpen v-else :size="14" /></button>
        <button class="tool" :class="{ set: p.item.hidden }" :aria-label="`${p.item.hidden ? 'Show' : 'Hide'}: ${name(p)}`" @click="flag(p.item, { hidden: !p.item.hidden })"><EyeOff v-if="p.item.hidden" :size="14" /><Eye v-else :size="14" /></button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 10px;
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

.sign i {
  width: 20px;
  height: 16px;
  border: 1.5px solid var(--rule);
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
