<script setup lang="ts">
import { computed } from 'vue'
import type { Piece } from '../generated/types'
import { foldsOf, toCssPx } from '../measures'
import type { Viewport } from './use-viewport'

/** Trim, bleed and safe area as overlays. They belong to the format and never leave in a file. */
const props = defineProps<{
  viewport: Viewport
  piece: Piece
  edges: boolean
  outside: boolean
  busy: boolean
  cut?: boolean
  back?: boolean
}>()

const box = (by: number) => {
  const { view } = props.viewport
  const w = toCssPx(props.piece.format.size.w)
  const h = toCssPx(props.piece.format.size.h)
  return { x: view.x - by * view.scale, y: view.y - by * view.scale, w: (w + 2 * by) * view.scale, h: (h + 2 * by) * view.scale }
}
/** Corners and the middles of edges: nothing that could be taken for a border. */
function ticks(b: ReturnType<typeof box>): string {
  const long = Math.min(9, b.w / 6, b.h / 6)
  const corner = (x: number, y: number, h: number, v: number) => `M${x + h * long} ${y}h${-h * long}v${v * long}`
  const [mx, my] = [b.x + b.w / 2, b.y + b.h / 2]
  return (
    corner(b.x, b.y, 1, 1) +
    corner(b.x + b.w, b.y, -1, 1) +
    corner(b.x, b.y + b.h, 1, -1) +
    corner(b.x + b.w, b.y + b.h, -1, -1) +
    `M${mx - long / 2} ${b.y}h${long}M${mx - long / 2} ${b.y + b.h}h${long}M${b.x} ${my - long / 2}v${long}M${b.x + b.w} ${my - long / 2}v${long}`
  )
}
const path = (b: ReturnType<typeof box>) => `M${b.x} ${b.y}h${b.w}v${b.h}h${-b.w}Z`
const whole = computed(() => `M0 0H${props.viewport.width.value}V${props.viewport.height.value}H0Z`)
const trim = computed(() => box(0))
const bleed = computed(() => toCssPx(props.piece.format.bleed))
const safe = computed(() => toCssPx(props.piece.format.safe))

const finish = computed(() => props.piece.format.finish ?? {})
const round = (b: ReturnType<typeof box>, radius: number) => {
  const r = Math.max(0, Math.min(radius, b.w / 2, b.h / 2))
  return `M${b.x + r} ${b.y}h${b.w - 2 * r}a${r} ${r} 0 0 1 ${r} ${r}v${b.h - 2 * r}a${r} ${r} 0 0 1 ${-r} ${r}h${2 * r - b.w}a${r} ${r} 0 0 1 ${-r} ${-r}v${2 * r - b.h}a${r} ${r} 0 0 1 ${r} ${-r}Z`
}
const corners = computed(() => toCssPx(finish.value.corners ?? 0) * props.viewport.view.scale)
const circle = (x: number, y: number, r: number) => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`
const at = (x: number, y: number) => ({
  x: props.viewport.view.x + toCssPx(x) * props.viewport.view.scale,
  y: props.viewport.view.y + toCssPx(y) * props.viewport.view.scale,
})
const hole = computed(() => {
  const own = finish.value.hole
  if (!own) return null
  // The back is seen from behind.
  const middle = at(props.back ? props.piece.format.size.w - own.at.x : own.at.x, own.at.y)
  const half = (wide: number) => (toCssPx(wide) * props.viewport.view.scale) / 2
  return { punched: circle(middle.x, middle.y, half(own.across)), ring: own.eyelet ? circle(middle.x, middle.y, half(own.eyelet)) : '' }
})
const folds = computed(() => {
  const { level, at: lines } = foldsOf(props.piece.format, props.back === true)
  const { w, h } = props.piece.format.size
  return lines
    .map((line) => {
      const [from, to] = level ? [at(0, line), at(w, line)] : [at(line, 0), at(line, h)]
      return `M${from.x} ${from.y}L${to.x} ${to.y}`
    })
    .join('')
})
/** What is left when the cutter is off by a millimetre, inward and outward. */
const off = 96 / 25.4
</script>

<template>
  <g class="format">
    <defs>
      <pattern id="bleed-hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="7" stroke="var(--mark-light)" stroke-width="3" stroke-opacity="0.5" />
        <line x1="0" y1="0" x2="0" y2="7" stroke="var(--mark-dark)" stroke-width="1" stroke-opacity="0.75" />
      </pattern>
    </defs>
    <path :d="`${whole}${path(trim)}`" fill-rule="evenodd" fill="var(--stage)" :fill-opacity="outside ? 0.72 : 1" />
    <template v-if="edges">
      <path v-if="bleed > 0" :d="`${path(box(bleed))}${path(trim)}`" fill-rule="evenodd" fill="url(#bleed-hatch)" />
      <path v-if="bleed > 0" :d="path(box(bleed))" class="hair" />
      <path v-if="safe > 0" :d="busy ? path(box(-safe)) : ticks(box(-safe))" class="safe light" :class="{ whole: busy }" />
      <path v-if="safe > 0" :d="busy ? path(box(-safe)) : ticks(box(-safe))" class="safe" :class="{ whole: busy }" />
    </template>
    <template v-if="cut">
      <path :d="`${whole}${round(trim, corners)}`" fill-rule="evenodd" fill="var(--stage)" />
      <path v-if="hole" :d="hole.punched" fill="var(--stage)" />
      <path :d="round(box(-off), corners - off * viewport.view.scale)" class="slip light" />
      <path :d="round(box(-off), corners - off * viewport.view.scale)" class="slip" />
    </template>
    <path :d="round(trim, corners)" class="hair" />
    <template v-if="edges || cut">
      <path v-if="folds" :d="folds" class="fold light" />
      <path v-if="folds" :d="folds" class="fold" />
      <path v-if="hole" :d="hole.punched" class="hair" />
      <path v-if="hole?.ring" :d="hole.ring" class="hair ring" />
    </template>
  </g>
</template>

<style scoped>
.format {
  pointer-events: none;
}

.hair {
  fill: none;
  stroke: var(--mark-dark);
  stroke-opacity: 0.55;
  stroke-width: 1;
}

.fold {
  fill: none;
  stroke: var(--mark-dark);
  stroke-width: 1;
  stroke-dasharray: 14 4 2 4;
}

.fold.light {
  stroke: var(--mark-light);
  stroke-opacity: 0.7;
  stroke-width: 3;
}

.ring {
  stroke-dasharray: 3 2;
}

.slip {
  fill: none;
  stroke: var(--mark-dark);
  stroke-width: 1;
  stroke-dasharray: 2 3;
}

.slip.light {
  stroke: var(--mark-light);
  stroke-width: 2.5;
  stroke-dasharray: none;
  stroke-opacity: 0.6;
}

.safe {
  fill: none;
  stroke: var(--mark-dark);
  stroke-opacity: 0.8;
  stroke-width: 1;
}

.safe.light {
  stroke: var(--mark-light);
  stroke-width: 2.5;
}

.safe.whole {
  stroke-dasharray: 1 4;
}
</style>
