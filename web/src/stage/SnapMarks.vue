<script setup lang="ts">
import { computed } from 'vue'
import type { Format, Frame, SnapReason, SnapStretch } from '../generated/types'
import { showLength, toCssPx, toFine } from '../measures'
import type { Catch } from './snapping'
import type { Viewport } from './use-viewport'

/** The reasons why a dragged box has fallen into place, and where it is. */
const props = defineProps<{ viewport: Viewport; snapped: { box: Frame; x: Catch | null; y: Catch | null }; format: Format }>()

const words: Record<SnapReason, string> = {
  sheetCentre: 'middle of the sheet',
  sheetEdge: 'edge of the sheet',
  safe: 'safe area',
  margin: 'margin',
  column: 'column',
  guide: 'guide',
  grid: 'grid',
  itemCentre: 'middle',
  itemEdge: 'edge',
  baseline: 'baseline',
  equalGap: 'equal gaps',
  equalSize: 'same size',
}

type Segment = { x1: number; y1: number; x2: number; y2: number }

function place(along: 'x' | 'y', from: number, to: number, across: number): Segment {
  const a = props.viewport.toScreen(along === 'x' ? { x: from, y: across } : { x: across, y: from })
  const b = props.viewport.toScreen(along === 'x' ? { x: to, y: across } : { x: across, y: to })
  return { x1: a.x, y1: a.y, x2: b.x, y2: b.y }
}

const lines = computed(() => {
  const { box, x, y } = props.snapped
  const reach = (line: SnapStretch, from: number, to: number) =>
    [Math.min(toCssPx(line.from), from), Math.max(toCssPx(line.to), to)] as const
  const upright = (x?.stops ?? []).flatMap((stop) => {
    if (!stop.line) return []
    const [from, to] = reach(stop.line, box.y, box.y + box.h)
    return [place('y', from, to, toCssPx(stop.line.across))]
  })
  const level = (y?.stops ?? []).flatMap((stop) => {
    if (!stop.line) return []
    const [from, to] = reach(stop.line, box.x, box.x + box.w)
    return [place('x', from, to, toCssPx(stop.line.across))]
  })
  return [...upright, ...level]
})

const gaps = computed(() => {
  const of = (found: Catch | null, along: 'x' | 'y') =>
    (found?.stops.find((stop) => stop.gaps.length)?.gaps ?? []).map((gap) => ({
      ...place(along, toCssPx(gap.from), toCssPx(gap.to), toCssPx(gap.across)),
      label: showLength(gap.to - gap.from, props.format.unit, props.format.ppi),
    }))
  return [...of(props.snapped.x, 'x'), ...of(props.snapped.y, 'y')]
})

const tag = computed(() => {
  const { box, x, y } = props.snapped
  const at = props.viewport.toScreen({ x: box.x + box.w / 2, y: box.y })
  const number = (v: number) => showLength(toFine(v), props.format.unit, props.format.ppi)
  const reasons = [...new Set([...(x?.stops ?? []), ...(y?.stops ?? [])].map((stop) => words[stop.reason]))]
  return {
    x: at.x,
    y: Math.max(at.y - 12, 16),
    text: `${number(box.x)}, ${number(box.y)}   ${number(box.w)} × ${number(box.h)} ${props.format.unit}`,
    reasons: reasons.join(', '),
  }
})
</script>

<template>
  <g class="snap">
    <template v-for="(line, i) in lines" :key="`l${i}`">
      <line v-bind="line" class="under" />
      <line v-bind="line" class="over" />
    </template>
    <g v-for="(gap, i) in gaps" :key="`g${i}`">
      <line :x1="gap.x1" :y1="gap.y1" :x2="gap.x2" :y2="gap.y2" class="under" />
      <line :x1="gap.x1" :y1="gap.y1" :x2="gap.x2" :y2="gap.y2" class="gap" />
      <text :x="(gap.x1 + gap.x2) / 2" :y="(gap.y1 + gap.y2) / 2 - 5" class="number">{{ gap.label }}</text>
    </g>
    <text :x="tag.x" :y="tag.y" class="number"
      >{{ tag.text }}<tspan v-if="tag.reasons"> · {{ tag.reasons }}</tspan></text
    >
  </g>
</template>

<style scoped>
.snap {
  pointer-events: none;
}

.under {
  stroke: var(--mark-light);
  stroke-width: 3;
}

.over {
  stroke: var(--mark-dark);
  stroke-width: 1;
}

.gap {
  stroke: var(--mark-dark);
  stroke-width: 1.5;
  stroke-dasharray: 2 2;
}

.number {
  font-size: 12px;
  font-weight: 600;
  text-anchor: middle;
  fill: var(--mark-dark);
  stroke: var(--mark-light);
  stroke-width: 3.5;
  paint-order: stroke;
  white-space: pre;
}
</style>
