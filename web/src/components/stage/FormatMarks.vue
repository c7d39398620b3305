<script setup lang="ts">
import { computed } from 'vue'
import type { Piece } from '../../generated/types'
import { toCssPx } from '../../measures'
import type { Viewport } from './use-viewport'

/** Trim, bleed and safe area as overlays. They belong to the format and never leave in a file. */
const props = defineProps<{ viewport: Viewport; piece: Piece; edges: boolean; outside: boolean }>()

const box = (by: number) => {
  const { view } = props.viewport
  const w = toCssPx(props.piece.format.size.w)
  const h = toCssPx(props.piece.format.size.h)
  return { x: view.x - by * view.scale, y: view.y - by * view.scale, w: (w + 2 * by) * view.scale, h: (h + 2 * by) * view.scale }
}
const path = (b: ReturnType<typeof box>) => `M${b.x} ${b.y}h${b.w}v${b.h}h${-b.w}Z`
const whole = computed(() => `M0 0H${props.viewport.width.value}V${props.viewport.height.value}H0Z`)
const trim = computed(() => box(0))
const bleed = computed(() => toCssPx(props.piece.format.bleed))
const safe = computed(() => toCssPx(props.piece.format.safe))
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
      <path v-if="safe > 0" :d="path(box(-safe))" class="safe light" />
      <path v-if="safe > 0" :d="path(box(-safe))" class="safe" />
    </template>
    <path :d="path(trim)" class="hair" />
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

.safe {
  fill: none;
  stroke: var(--mark-dark);
  stroke-width: 1.5;
  stroke-linecap: round;
  stroke-dasharray: 0.1 5;
}

.safe.light {
  stroke: var(--mark-light);
  stroke-width: 3;
}
</style>
