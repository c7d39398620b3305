<script setup lang="ts">
import { ElSwitch } from 'element-plus'
import { watch } from 'vue'
import { useBench } from '../stores/bench'

/** Whether what is chosen takes the place of the selected item, a mode of its own that ends when something else is selected. */
defineProps<{ on: boolean; what: string }>()
const bench = useBench()
watch(
  () => bench.selection.join(),
  (now, before) => {
    if (now !== before) bench.swapping = false
  },
)
</script>

<template>
  <label class="swap">
    <ElSwitch v-model="bench.swapping" size="small" :disabled="!on" :aria-label="`Put in place of the selected ${what}`" />
    <span :class="{ quiet: !on }">Put in place of the selected {{ what }}</span>
  </label>
</template>

<style scoped>
.swap {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 26px;
  font-size: var(--text-1);
}
</style>
