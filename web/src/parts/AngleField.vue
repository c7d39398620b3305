<script setup lang="ts">
import { ANGLE_DEGREE } from '../measures'
import NumberField from './NumberField.vue'

/** An angle in degrees, clockwise. */
withDefaults(defineProps<{ label: string; short?: string; value: number; most?: number }>(), { short: 'Turn', most: 36_000 })
const emit = defineEmits<{ done: [millionths: number] }>()
</script>

<template>
  <label class="angle">
    <span>{{ short }}</span><NumberField
      :label="`${label} in degrees`"
      :value="value / ANGLE_DEGREE"
      :least="-most"
      :most="most"
      unit="°"
      :digits="2"
      @done="emit('done', Math.round($event * ANGLE_DEGREE))" />
  </label>
</template>

<style scoped>
.angle {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  gap: 2px 6px;
}

span {
  min-width: 12px;
  color: var(--ink-3);
  font-size: var(--text-1);
}
</style>
