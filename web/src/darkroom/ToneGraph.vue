<script setup lang="ts">
import type { Tones } from '../generated/types'

/** How the tones of a picture lie: light as an area, channels as lines of their own kind of dash. */
defineProps<{ tones: Tones | null }>()
const width = 256
const height = 76
function outline(counts: number[]) {
  const step = width / counts.length
  // The root shows what few pixels have beside what many have.
  return counts.map((count, at) => `${(at + 0.5) * step},${height - Math.sqrt(count / 1_000) * (height - 2)}`).join(' ')
}
</script>

<template>
  <figure v-if="tones" class="tones">
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      preserveAspectRatio="none"
      role="img"
      :aria-label="`Tones: ${tones.black} % cut off at black, ${tones.white} % at white`">
      <polygon class="light" :points="`0,${height} ${outline(tones.light)} ${width},${height}`" />
      <polyline v-for="channel in ['red', 'green', 'blue'] as const" :key="channel" :class="channel" :points="outline(tones[channel])" />
    </svg>
    <figcaption>
      <span :class="{ cut: tones.black > 0.5 }">black {{ tones.black }} %</span
      ><span :class="{ cut: tones.white > 0.5 }">white {{ tones.white }} %</span>
    </figcaption>
  </figure>
</template>

<style scoped>
.tones {
  margin: 0;
}

svg {
  display: block;
  width: 100%;
  height: 76px;
  background: var(--paper-2);
  border: 1px solid var(--rule);
}

.light {
  fill: var(--rule-strong);
  opacity: 0.55;
}

polyline {
  fill: none;
  stroke-width: 1.4;
  vector-effect: non-scaling-stroke;
}

.red {
  stroke: #b4402f;
}

.green {
  stroke: #4f7d45;
  stroke-dasharray: 6 2;
}

.blue {
  stroke: #3f68a8;
  stroke-dasharray: 2 2;
}

figcaption {
  display: flex;
  justify-content: space-between;
  color: var(--ink-3);
  font-size: var(--text-1);
}

.cut {
  color: var(--ink);
  font-weight: 600;
}
</style>
