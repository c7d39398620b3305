<script setup lang="ts">
import { computed, ref } from 'vue'
import type { GuideMark } from '../generated/types'
import { showLength, toCssPx, toFine } from '../measures'
import { useBench } from '../stores/bench'
import type { Viewport } from './use-viewport'

/** Margins, columns, single lines and grid over the sheet, and rulers from which lines are pulled. */
const props = defineProps<{ viewport: Viewport; rulers: boolean }>()
const bench = useBench()
const RULER = 18

const size = computed(() => ({ w: props.viewport.width.value, h: props.viewport.height.value }))
const view = computed(() => props.viewport.view)
const x = (at: number) => view.value.x + toCssPx(at) * view.value.scale
const y = (at: number) => view.value.y + toCssPx(at) * view.value.scale
const segment = (mark: { upright: boolean; at: number }) =>
  mark.upright ? `M${x(mark.at)} 0V${size.value.h}` : `M0 ${y(mark.at)}H${size.value.w}`

const inside = (mark: GuideMark) => {
  const a = props.viewport.toScreen({ x: 0, y: 0 })
  const b = props.viewport.toScreen({ x: bench.sheet.width, y: bench.sheet.height })
  return mark.upright ? `M${x(mark.at)} ${a.y}V${b.y}` : `M${a.x} ${y(mark.at)}H${b.x}`
}
const of = (reason: GuideMark['reason']) =>
  bench.guides
    .filter((mark) => mark.reason === reason)
    .map(inside)
    .join('')
const lines = computed(() => bench.guides.filter((mark) => mark.reason === 'guide'))

/** A line being pulled: from a ruler, or one that is there already. */
const pulled = ref<{ upright: boolean; at: number; line: number | null } | null>(null)

function pull(event: PointerEvent, upright: boolean, line: number | null) {
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  pulled.value = { upright, at: place(event, upright), line }
}

function place(event: PointerEvent, upright: boolean): number {
  const box = document.querySelector('.stage')!.getBoundingClientRect()
  const p = props.viewport.toSheet({ x: event.clientX - box.left, y: event.clientY - box.top })
  const unit = bench.piece!.format.unit === 'px' ? 1 : 96 / 25.4
  return toFine(Math.round((upright ? p.x : p.y) / unit) * unit)
}

function follow(event: PointerEvent) {
  if (pulled.value) pulled.value = { ...pulled.value, at: place(event, pulled.value.upright) }
}

/** Let go off the sheet, a line is taken away. */
function letGo() {
  const now = pulled.value
  const piece = bench.piece
  pulled.value = null
  if (!now || !piece) return
  if (now.line === null || now.line === undefined) void bench.act({ act: 'addGuide', piece: piece.id, upright: now.upright, at: now.at })
  else void bench.act({ act: 'moveGuide', piece: piece.id, index: now.line, at: now.at })
}

/** Ticks of a ruler at round numbers of the piece's own unit. */
function ticks(along: 'x' | 'y') {
  const format = bench.piece!.format
  const perUnit = { px: 96 / format.ppi, pt: 96 / 72, mm: 96 / 25.4, cm: 96 / 2.54, in: 96 }[format.unit]
  const wanted = 56 / (perUnit * view.value.scale)
  const power = 10 ** Math.floor(Math.log10(wanted))
  const step = [1, 2, 5, 10].map((n) => n * power).find((n) => n >= wanted) ?? 10 * power
  const start = along === 'x' ? view.value.x : view.value.y
  const length = along === 'x' ? size.value.w : size.value.h
  const out: { at: number; label: string }[] = []
  const pixels = step * perUnit * view.value.scale
  for (let n = Math.ceil(-start / pixels); start + n * pixels < length; n++)
    out.push({ at: start + n * pixels, label: String(Number((n * step).toFixed(3))) })
  return { list: out, fine: pixels / 5 }
}
const across = computed(() => ticks('x'))
const down = computed(() => ticks('y'))
const label = computed(() =>
  pulled.value ? `${showLength(pulled.value.at, bench.piece!.format.unit, bench.piece!.format.ppi)} ${bench.piece!.format.unit}` : '',
)
</script>

<template>
  <g>
    <path :d="of('grid')" class="grid" />
    <path :d="of('column')" class="dash under" /><path :d="of('column')" class="dash" /> <path :d="of('margin')" class="dash under" /><path
      :d="of('margin')"
      class="dash" />
    <g v-for="mark in lines" :key="mark.line">
      <path :d="segment(mark)" class="line under" /><path :d="segment(mark)" class="line" />
      <path
        :d="segment(mark)"
        class="grab"
        :style="{ cursor: mark.upright ? 'ew-resize' : 'ns-resize' }"
        @pointerdown.stop="pull($event, mark.upright, mark.line ?? null)"
        @pointermove="follow"
        @pointerup="letGo" />
    </g>
    <g v-if="pulled"><path :d="segment(pulled)" class="line under" /><path :d="segment(pulled)" class="line" /></g>
    <g v-if="rulers" class="rulers">
      <rect
        :width="size.w"
        :height="RULER"
        class="ruler"
        @pointerdown.stop="pull($event, false, null)"
        @pointermove="follow"
        @pointerup="letGo" />
      <rect
        :width="RULER"
        :height="size.h"
        class="ruler"
        @pointerdown.stop="pull($event, true, null)"
        @pointermove="follow"
        @pointerup="letGo" />
      <g v-for="tick in across.list" :key="`x${tick.at}`"
        ><path :d="`M${tick.at} 6V${RULER}`" class="tick" /><text :x="tick.at + 3" y="11">{{ tick.label }}</text></g
      >
      <g v-for="tick in down.list" :key="`y${tick.at}`"
        ><path :d="`M6 ${tick.at}H${RULER}`" class="tick" /><text :transform="`translate(11 ${tick.at + 3}) rotate(90)`">{{
          tick.label
        }}</text></g
      >
      <rect :width="RULER" :height="RULER" class="corner" />
    </g>
    <text v-if="pulled" class="tag" :x="pulled.upright ? x(pulled.at) + 6 : 30" :y="pulled.upright ? 34 : y(pulled.at) - 6">{{
      label
    }}</text>
  </g>
</template>

<style scoped>
path {
  fill: none;
  pointer-events: none;
}

.grid {
  stroke: var(--mark-dark);
  stroke-opacity: 0.16;
}

.dash {
  stroke: var(--mark-dark);
  stroke-opacity: 0.75;
  stroke-dasharray: 7 5;
}

.line {
  stroke: var(--mark-dark);
}

.dash.under,
.line.under {
  stroke: var(--mark-light);
  stroke-opacity: 0.7;
  stroke-width: 2.5;
  stroke-dasharray: none;
}

.grab {
  stroke: transparent;
  stroke-width: 9;
  pointer-events: stroke;
  touch-action: none;
}

.ruler {
  fill: var(--paper);
  stroke: var(--rule);
  cursor: crosshair;
  pointer-events: all;
  touch-action: none;
}

.corner {
  fill: var(--paper);
  stroke: var(--rule);
}

.tick {
  stroke: var(--ink-3);
}

text {
  font-size: 9.5px;
  fill: var(--ink-2);
  pointer-events: none;
  user-select: none;
}

.tag {
  font-size: 12px;
  fill: var(--mark-dark);
  paint-order: stroke;
  stroke: var(--mark-light);
  stroke-width: 3px;
}
</style>
