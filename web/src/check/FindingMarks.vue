<script setup lang="ts">
import { computed } from 'vue'
import { useBench } from '../stores/bench'
import type { Viewport } from '../stage/use-viewport'

/** A sign at every item that would not leave as it is meant, with what is the matter. */
const props = defineProps<{ viewport: Viewport }>()
const bench = useBench()

const marks = computed(() =>
  [...bench.troubled.values()].map((drawn) => {
    const says = drawn.findings.map((finding) => finding.says).join(' ')
    const at = props.viewport.toScreen({ x: drawn.frame.x + drawn.frame.w, y: drawn.frame.y })
    return { id: drawn.id, says, ...at }
  }),
)
</script>

<template>
  <g v-for="mark in marks" :key="mark.id" class="finding" :transform="`translate(${mark.x} ${mark.y})`">
    <title>{{ mark.says }}</title>
    <path d="M0 -9L9 7H-9Z" />
    <path class="sign" d="M0 -4V2M0 4.2V5.2" />
  </g>
</template>

<style scoped>
.finding path {
  fill: var(--madder);
  stroke: var(--mark-light);
  stroke-width: 1.5;
  stroke-linejoin: round;
}

.finding .sign {
  fill: none;
  stroke: #fff;
  stroke-width: 1.8;
}
</style>
