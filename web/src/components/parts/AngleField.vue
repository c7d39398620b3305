<script setup lang="ts">
import { computed, ref } from 'vue'
import { ANGLE_DEGREE } from '../../measures'
import DraftField from './DraftField.vue'

/** An angle in degrees, clockwise. */
const props = withDefaults(defineProps<{ label: string; short?: string; value: number; most?: number }>(), { short: '∠', most: 36_000 })
const emit = defineEmits<{ done: [millionths: number] }>()

const wrong = ref(false)
const shown = computed(() => `${Math.round((props.value / ANGLE_DEGREE) * 100) / 100}°`)

function type(typed: string) {
  const value = Number(typed.replace('°', '').replace(',', '.').trim())
  wrong.value = !(Number.isFinite(value) && typed.replace('°', '').trim() && Math.abs(value) <= props.most)
  if (!wrong.value) emit('done', Math.round(value * ANGLE_DEGREE))
}
</script>

<template>
  <label class="angle">
    <span>{{ short }}</span><DraftField :value="shown" :aria-label="`${label} in degrees`" :aria-invalid="wrong ? 'true' : undefined" @done="type" />
    <em v-if="wrong" class="wrong" role="alert">An angle is a number of degrees, at most {{ most }}. The last good value stays.</em>
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

.wrong {
  grid-column: 1 / -1;
  font-style: normal;
}
</style>
