<script setup lang="ts">
import { ElSlider } from 'element-plus'
import { ref, watch } from 'vue'
import NumberField from './NumberField.vue'

/** A share in percent, or a value with another unit, by slider and by number. `live` follows the hand; `done` comes once. */
const props = withDefaults(defineProps<{ label: string; value: number; min?: number; max?: number; step?: number; unit?: string }>(), {
  min: 0,
  max: 100,
  step: 1,
  unit: '%',
})
const emit = defineEmits<{ live: [percent: number]; done: [percent: number] }>()

const now = ref(props.value)
watch(
  () => props.value,
  (value) => {
    now.value = value
  },
)
</script>

<template>
  <div class="share">
    <span>{{ label }}</span>
    <ElSlider
      v-model="now"
      :min="min"
      :max="max"
      :step="step"
      :show-tooltip="false"
      :aria-label="label"
      @input="(v) => emit('live', v as number)"
      @change="(v) => emit('done', v as number)" />
    <NumberField
      :label="unit === '%' ? `${label} in percent` : `${label} by number`"
      :value="now"
      :least="min"
      :most="max"
      :unit="unit"
      @done="emit('done', $event)" />
  </div>
</template>

<style scoped>
.share {
  display: grid;
  grid-template-columns: 62px 1fr 62px;
  align-items: center;
  gap: 12px;
}

.share > span {
  color: var(--ink-3);
  font-size: var(--text-1);
}

:deep(.el-input__inner) {
  text-align: right;
}
</style>
