<script setup lang="ts">
import { Printer } from '@lucide/vue'
import { ElPopover, ElSlider } from 'element-plus'
import { useLocalStorage } from '@vueuse/core'
import { ref } from 'vue'

/** Shows the sheet as large as it will be printed, on a display that has been measured once. */
const emit = defineEmits<{ show: [scale: number] }>()
/** CSS pixels of this display in 100 millimetres. */
const tenth = useLocalStorage('vatman-display', (100 / 25.4) * 96)
const open = ref(false)
function showReal() {
  emit('show', tenth.value / ((100 / 25.4) * 96))
  open.value = false
}
</script>

<template>
  <ElPopover v-model:visible="open" trigger="click" placement="left-end" :width="560" :persistent="false" :show-arrow="false">
    <template #reference>
      <button class="tool" aria-label="As large as it is printed"><Printer :size="16" /></button>
    </template>
    <div class="size" @keydown.stop @keydown.escape="open = false">
      <p>Hold a ruler to this line and move the slider until it is 100 mm long. That is needed once on each display.</p>
      <i :style="{ width: `${tenth}px` }" />
      <ElSlider v-model="tenth" :min="200" :max="520" :step="0.5" :show-tooltip="false" aria-label="Length of the line" />
      <button class="act next" @click="showReal">Show as large as it is printed</button>
    </div>
  </ElPopover>
</template>

<style scoped>
.size {
  display: grid;
  gap: 10px;
  justify-items: start;
}

.size :deep(.el-slider) {
  width: 100%;
}

i {
  display: block;
  height: 12px;
  border: solid var(--ink);
  border-width: 0 1.5px 1.5px;
}

.tool {
  width: 28px;
  height: 28px;
}
</style>
